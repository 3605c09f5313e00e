"""The command line of Lark; each command's own help says what it does."""

from __future__ import annotations

import os
import sys

import click

from zealous_lark import __version__
from zealous_lark.cli import data, judging, serving, simulators
from zealous_lark.cli.status import ended_with


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
    if status := ended_with(lambda: lark(standalone_mode=False)):
        sys.exit(status)
