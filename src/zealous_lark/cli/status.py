"""How commands end."""

from zealous_lark.core.verdict import Verdict

BAD_INPUT = 64
FAULT = 70
"""Something that Lark itself did wrong; no verdict."""
NO_DATA = 74
"""The data could not be read or written; what happened was said, and no verdict made."""

EXIT_STATUS = {Verdict.LAUNCH: 0, Verdict.CARE: 1, Verdict.STAY: 2, Verdict.UNKNOWN: 3}
