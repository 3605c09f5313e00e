"""How commands end."""

from __future__ import annotations

from collections.abc import Callable

import click

BAD_INPUT = 64
FAULT = 70
"""Something that Lark itself did wrong; no verdict."""
NO_DATA = 74
"""The data could not be read or written; what happened was said, and no verdict made."""

EXIT_STATUS = {"launch": 0, "care": 1, "stay": 2, "unknown": 3}
"""By the verdict's value: who asks for help need not wait for all that judges."""


def ended_with(run: Callable[[], object]) -> int:
    """Run something and say on standard error what went wrong; the status to exit with."""
    try:
        run()
    except click.ClickException as error:
        error.show()
        return FAULT if error.exit_code == FAULT else BAD_INPUT
    except (click.Abort, KeyboardInterrupt):
        return 130
    except Exception as error:
        from zealous_lark.store import data_folder
        from zealous_lark.store.trouble import sentence

        if said := sentence(error, data_folder()):
            click.echo(said, err=True)
            return NO_DATA
        # A fault of Lark's own must not end with a status that means a verdict.
        click.echo(f"A fault in Lark: {type(error).__name__}: {error}. No verdict was made.", err=True)
        return FAULT
    return 0
