"""Commands that look after the data: backups, and the archive that carries everything to another machine."""

from __future__ import annotations

import threading
from datetime import UTC, datetime
from pathlib import Path

import click


@click.command()
def backup() -> None:
    """Back up the database now, beside it; `lark serve` does so once a day by itself."""
    from zealous_lark.store import backup as backups
    from zealous_lark.store import data_folder

    folder = data_folder()
    _must_have_data(folder)
    try:
        click.echo(f"Backed up to {backups.back_up(folder, datetime.now())}")
    except backups.BadBackupError as error:
        raise click.ClickException(f"{error}; nothing was backed up") from None


@click.command()
def backups() -> None:
    """List the backups, the latest first."""
    from zealous_lark.store import backup as kept
    from zealous_lark.store import data_folder

    found = kept.list_backups(data_folder())
    for one in found:
        click.echo(f"{one.made}  {one.path}")
    if not found:
        click.echo("No backup yet; lark backup makes one.")


@click.command()
@click.argument("path", type=click.Path(dir_okay=False, path_type=Path))
@click.option("--yes", is_flag=True, help="Skip the confirmation.")
def restore(path: Path, yes: bool) -> None:
    """Put the backup in the file PATH in place of the database, after a check. Stop lark serve first.

    What was there is backed up before.
    """
    from zealous_lark.store import Database, data_folder
    from zealous_lark.store import backup as backups

    folder = data_folder()
    try:
        backups.rehearse(path)
        click.echo(f"{path} checked: OK.")
        if not yes:
            click.confirm(f"Replace the data in {folder} with this backup?", abort=True)
        before = backups.restore(folder, path, datetime.now())
    except backups.BadBackupError as error:
        raise click.ClickException(f"{error}; nothing was changed") from None
    restored = Database(folder)
    restored.migrate()
    restored.close()
    click.echo("Restored." if before is None else f"Restored. Your previous data was backed up to {before}")


@click.command()
@click.argument("path", type=click.Path(dir_okay=False, path_type=Path))
@click.option("--overwrite", is_flag=True, help="Replace an archive that has this name.")
def archive(path: Path, overwrite: bool) -> None:
    """Write everything that Lark has into the archive PATH, to be restored on another machine."""
    from zealous_lark.services import archive as archives
    from zealous_lark.services.sources import move_keys
    from zealous_lark.store import Database, data_folder

    folder = data_folder()
    _must_have_data(folder)
    is_archive = path.is_file() and _begins_as_zip(path)
    if path.exists() and not (overwrite and is_archive):
        # Whatever it is, it is not what this command was asked to look after; the live database has been named here.
        hint = ", or --overwrite to replace it" if is_archive else ""
        raise click.ClickException(f"{path} is there already, and was left as it is; choose another name{hint}")
    database = Database(folder)
    database.migrate()
    move_keys(database)
    half = path.with_name(path.name + ".part")
    try:
        half.write_bytes(archives.write(database, datetime.now(UTC)))
        half.rename(path)
    except OSError as error:
        raise click.ClickException(f"{path}: {error.strerror or error}") from None
    finally:
        half.unlink(missing_ok=True)
        database.close()
    click.echo(f"Wrote {path}")


@click.command()
@click.argument("path", type=click.Path(dir_okay=False, path_type=Path))
def unarchive(path: Path) -> None:
    """Restore the archive PATH into an empty Lark (LARK_DATA, or your user data folder)."""
    from zealous_lark.formats.errors import BadFileError
    from zealous_lark.services import archive as archives
    from zealous_lark.services.errors import NotAllowedError
    from zealous_lark.services.sources import move_keys, without_keys
    from zealous_lark.store import Database, data_folder
    from zealous_lark.store.claim import claimed

    try:
        data = path.read_bytes()
    except OSError as error:
        raise click.ClickException(f"{path}: {error.strerror or error}") from None
    with claimed(data_folder(), alone=True):
        database = Database(data_folder())
        database.migrate()
        try:
            with click.progressbar(length=100, label="Reading the archive") as bar:
                archives.restore(database, data, datetime.now(UTC), lambda done: bar.update(int(100 * done) - bar.pos))
                bar.update(100 - bar.pos)
            move_keys(database)
            asking = without_keys(database)
        except (BadFileError, NotAllowedError) as error:
            raise click.ClickException(f"{path}: {error}; nothing was changed") from None
        finally:
            database.close()
    click.echo(f"Restored {path}")
    if asking:
        click.echo(f"Enter the key again for: {', '.join(asking)}. Keys travel in no archive.")


def _begins_as_zip(path: Path) -> bool:
    """By its first bytes: a database with a ZIP in one of its rows is none."""
    with path.open("rb") as file:
        return file.read(2) == b"PK"


def _must_have_data(folder: Path) -> None:
    from zealous_lark.store.database import FILE_NAME

    if not (folder / FILE_NAME).is_file():
        raise click.ClickException(f"there is no data in {folder} yet")


def back_up_if_due(folder: Path) -> None:
    """The backup of this day, where there is something to back up. One that fails is said, and stops nothing."""
    import sqlite3

    from zealous_lark.store import backup as backups
    from zealous_lark.store.database import FILE_NAME

    here = datetime.now()
    try:
        if (folder / FILE_NAME).is_file() and backups.due(folder, here):
            backups.back_up(folder, here)
    except (OSError, sqlite3.Error, backups.BadBackupError) as error:
        click.echo(f"Backup failed ({error}). Lark will try again within an hour.", err=True)


def back_up_daily(folder: Path, stopped: threading.Event) -> None:
    """A backup of each day, as long as the server runs."""
    while not stopped.wait(3600):
        back_up_if_due(folder)


COMMANDS = (backup, backups, restore, archive, unarchive)
