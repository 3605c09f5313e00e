"""The command line of Lark; each command's own help says what it does."""

from __future__ import annotations

import os
import sys

import click

from zealous_lark import __version__
from zealous_lark.cli import data, judging, serving, simulators
from zealous_lark.cli.status import BAD_INPUT, FAULT, NO_DATA


@click.group(context_settings={"help_option_names": ["-h", "--help"]})
@click.version_option(__version__, prog_name="lark")
def lark() -> None:
    """Zealous Lark: launch decisions for camera-drone pilots.

    Lark shows what the numbers say and what was not checked. Local rules, the land
    owner, the aircraft's manual and the aviation authority decide.
    """


for _part in (judging, serving, simulators, data):
    for _command in _part.COMMANDS:
        lark.add_command(_command)


def main() -> None:
    """Run a command; whatever is wrong with the call ends with 64, never with a verdict's status."""
    os.umask(0o077)  # whatever is written is for the pilot's own account
    try:
        lark(standalone_mode=False)
    except click.ClickException as error:
        error.show()
        sys.exit(BAD_INPUT)
    except (click.Abort, KeyboardInterrupt):
        sys.exit(130)
    except Exception as error:
        from zealous_lark.store import data_folder
        from zealous_lark.store.trouble import sentence

        if said := sentence(error, data_folder()):
            click.echo(said, err=True)
            sys.exit(NO_DATA)
        # A fault of Lark's own must not end with a status that means a verdict.
        click.echo(f"A fault in Lark: {type(error).__name__}: {error}. No verdict was made.", err=True)
        sys.exit(FAULT)
