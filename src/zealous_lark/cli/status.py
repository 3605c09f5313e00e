"""How commands end."""

from zealous_lark.core.verdict import Verdict

BAD_INPUT = 64
EXIT_STATUS = {Verdict.LAUNCH: 0, Verdict.CARE: 1, Verdict.STAY: 2, Verdict.UNKNOWN: 3}
