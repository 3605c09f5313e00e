"""How commands end."""

BAD_INPUT = 64
FAULT = 70
"""Something that Lark itself did wrong; no verdict."""
NO_DATA = 74
"""The data could not be read or written; what happened was said, and no verdict made."""

EXIT_STATUS = {"launch": 0, "care": 1, "stay": 2, "unknown": 3}
"""By the verdict's value: who asks for help need not wait for all that judges."""
