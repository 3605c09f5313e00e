"""What a reader of files takes of memory, told by the process that reads: it is forked, and nobody waits for it."""

from __future__ import annotations

import resource
from collections.abc import Callable
from typing import Any


def most_mb(reader: Callable[..., Any], *given: Any) -> float:
    """Most memory of this process [MB], what its fork began with included, after a reader has read."""
    reader(*given)
    return resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1_000
