"""Reading bodies, and turning what goes wrong into answers that say what to do."""

from __future__ import annotations

import hashlib
import logging
import re
from collections.abc import Callable
from functools import wraps
from time import sleep
from typing import Any

from apiflask import APIBlueprint, APIFlask
from flask import Response, current_app, g, request
from pydantic import BaseModel, ValidationError
from sqlalchemy.exc import DBAPIError
from sqlalchemy.orm import Session
from werkzeug.exceptions import HTTPException

from zealous_lark.core.units import Units
from zealous_lark.formats.errors import BadFileError
from zealous_lark.plan import MAX_PLAN_BYTES, PlanRefusedError, PlanTooLargeError, read_document, refused_input
from zealous_lark.services.answers import NewerWordError
from zealous_lark.services.errors import NotAllowedError, NotHereError
from zealous_lark.services.weather import SourceDownError
from zealous_lark.store import Database, RevisionConflictError, requests
from zealous_lark.store.database import is_overtaken
from zealous_lark.store.holding import doing
from zealous_lark.store.trouble import DataGoneError, sentence
from zealous_lark.web.context import now
from zealous_lark.web.schemas.common import ProblemOut, RefusalOut, UnitsQuery

log = logging.getLogger(__name__)
View = Callable[..., Any]


def body(blueprint: APIBlueprint, model: type[BaseModel]) -> Callable[[View], View]:
    """Read the request's JSON as a model and pass it as `document`.

    The framework's own reader would name only the fault's place, not what was given
    and what is allowed; its decorator is used for the OpenAPI document alone.
    """

    def decorate(view: View) -> View:
        @wraps(blueprint.input(model)(view))
        def reading(*args: Any, **kwargs: Any) -> Any:
            # A form on a foreign page can post plain text here without asking; JSON it cannot.
            if request.mimetype != "application/json":
                return problem(415, "Send JSON with the header Content-Type: application/json.")
            if "raw" not in g:  # a view that was overtaken is run again
                g.raw = request.stream.read(MAX_PLAN_BYTES + 1)
            return view(*args, document=read_document(model, g.raw), **kwargs)

        return reading

    return decorate


def streamed(blueprint: APIBlueprint, most: int) -> Callable[[View], View]:
    """Let only bodies through that are a file's bytes and say of themselves to be at most so many."""

    def decorate(view: View) -> View:
        @wraps(view)
        def reading(*args: Any, **kwargs: Any) -> Any:
            # Like JSON, bytes of this kind cannot be posted by a foreign page without asking.
            if request.mimetype != "application/octet-stream":
                return problem(415, "Send the file's bytes with the header Content-Type: application/octet-stream.")
            if (request.content_length or 0) > most:
                return _too_large(most)
            return view(*args, **kwargs)

        return blueprint.doc()(reading)

    return decorate


def _too_large(most: int) -> Any:
    return problem(413, f"The file is too large, nothing was kept: at most {most // 1_000_000} MB.")


def file(blueprint: APIBlueprint, most: int) -> Callable[[View], View]:
    """Read the request's body as a file of at most so many bytes and pass it as `data`."""

    def decorate(view: View) -> View:
        @wraps(view)
        def reading(*args: Any, **kwargs: Any) -> Any:
            data = request.stream.read(most + 1)
            if len(data) > most:
                return _too_large(most)
            return view(*args, data=data, **kwargs)

        return streamed(blueprint, most)(reading)

    return decorate


def a_file(kind: str) -> dict[int | str, Any]:
    """What a route that answers with a file of one kind says of its answers."""
    return {200: {"description": "The file", "content": {kind: {}}}, 404: {"description": "Not here"}}


def query(blueprint: APIBlueprint, model: type[BaseModel]) -> Callable[[View], View]:
    """Read the address's query as a model and pass it as `asked`."""

    def decorate(view: View) -> View:
        @wraps(blueprint.input(model, location="query")(view))
        def reading(*args: Any, **kwargs: Any) -> Any:
            try:
                asked = model.model_validate(request.args.to_dict())
            except ValidationError as error:
                raise refused_input(model, error) from None
            return view(*args, asked=asked, **kwargs)

        return reading

    return decorate


def units(blueprint: APIBlueprint, model: type[UnitsQuery] = UnitsQuery) -> Callable[[View], View]:
    """Read the units from the query and pass them as `units`; what else the query holds, by its own name."""

    def decorate(view: View) -> View:
        @wraps(view)
        def reading(*args: Any, asked: UnitsQuery, **kwargs: Any) -> Any:
            chosen = Units(asked.speed, asked.length, asked.temperature)
            more = asked.model_dump(exclude=set(UnitsQuery.model_fields))
            return view(*args, units=chosen, **more, **kwargs)

        return query(blueprint, model)(reading)

    return decorate


_KEY = re.compile(r"[0-9A-Za-z-]{8,80}")
_WRITING = frozenset({"POST", "PUT", "PATCH", "DELETE"})


def writes_nothing(view: View) -> View:
    """Mark a view that takes a body but keeps nothing, or does so only after asking somebody else."""
    view.writes_nothing = True  # type: ignore[attr-defined]
    return view


def reads_first(view: View) -> View:
    """Mark a view that reads a file before it writes: others need not wait for that, and it writes in one step."""
    return writes_nothing(view)


class _RefusedAnswerError(Exception):
    def __init__(self, answer: Any) -> None:
        self.answer = answer


def one_transaction_each(app: APIFlask, database: Database) -> None:
    """Run each request that writes in one unit of work, kept when it is answered well.

    Others wait only from its first change on: what takes long is computed before that.
    """
    for rule in app.url_map.iter_rules():
        view = app.view_functions[rule.endpoint]
        if (rule.methods or set()) & _WRITING and not hasattr(view, "writes_nothing"):
            app.view_functions[rule.endpoint] = _in_one(view, database)


def _in_one(view: View, database: Database) -> View:
    @wraps(view)
    def whole(*args: Any, **kwargs: Any) -> Any:
        key = request.headers.get("Idempotency-Key")
        if key is not None and not _KEY.fullmatch(key):
            return problem(422, "The header Idempotency-Key takes 8 to 80 letters, digits and hyphens.")
        doing.set(getattr(view, "_spec", {}).get("summary", ""))
        for left in reversed(range(_WITHOUT_WAITING + 1)):
            try:
                with database.writing(at_once=left == 0) as s:
                    g.pop("afterwards", None)
                    answer = _answered(s, key, lambda: view(*args, **kwargs))
                return _shown(database, key, g.afterwards) if "afterwards" in g else answer
            except _NotYetError:
                return _when_shown(database, key or "")
            except _RefusedAnswerError as refused:
                return refused.answer
            except DBAPIError as error:
                if left == 0 or not is_overtaken(error):
                    raise
        raise AssertionError("the last try waits")

    return whole


_WITHOUT_WAITING = 2
"""How often a request is tried that lets others write while it computes; then it keeps them waiting."""


def afterwards(show: Callable[[], Response], status: int = 200) -> Response:
    """Answer with what takes long to work out, once all is written and nobody waits for it."""
    g.afterwards = show
    return Response("", status, mimetype="application/json")


def _shown(database: Database, key: str | None, show: Callable[[], Response]) -> Response:
    answer = show()
    if key is not None:
        with database.writing() as s:
            requests.fill_in(s, key, answer.get_data(as_text=True))
    return answer


class _NotYetError(Exception):
    """What was asked for again is done, and its answer not worked out yet."""


def _when_shown(database: Database, key: str) -> Response:
    for _ in range(_LOOKS):
        sleep(_BETWEEN_LOOKS_S)
        with database.transaction() as s:
            before = requests.find(s, key)
        if before is not None and before.body:
            return _again(before)
    # It was lost in a crash.
    return problem(409, "This was done already. Reload to see it.")


_LOOKS, _BETWEEN_LOOKS_S = 100, 0.1


def _answered(s: Session, key: str | None, view: View) -> Response:
    before = None if key is None else requests.find(s, key)
    if before is not None:
        return _again(before)
    answer = current_app.make_response(view())
    if answer.status_code >= 400:
        raise _RefusedAnswerError(answer)
    if key is not None:
        kept = requests.Answered(_asked(), answer.status_code, answer.get_data(as_text=True))
        requests.add(s, key, kept, now())
    return answer


def _asked() -> str:
    return hashlib.sha256(f"{request.method} {request.full_path}".encode()).hexdigest()


def _again(before: requests.Answered) -> Response:
    """The answer to a request that was done already: a second tap, or one whose answer was lost on the way."""
    if before.digest != _asked():
        return problem(422, "This Idempotency-Key was used for something else; take a new one.")
    if before.status in (200, 201) and not before.body:
        raise _NotYetError
    return Response(before.body, before.status, mimetype="application/json")


def problem(status: int, message: str, refusals: list[RefusalOut] | None = None) -> Response:
    """An answer that says what went wrong."""
    out = ProblemOut(message=message, refusals=refusals or [])
    return Response(out.model_dump_json(), status, mimetype="application/json")


def fault_of(error: NotAllowedError | BadFileError) -> RefusalOut:
    """What is wrong with an input, as it is answered."""
    key = error.key if isinstance(error, NotAllowedError) else "file"
    return RefusalOut(key=key, given=error.given, allowed=error.allowed)


def handle_problems(app: APIFlask, database: Database) -> None:
    """Answer every error of the services and of the reading of documents."""

    @app.errorhandler(PlanRefusedError)
    def refused(error: PlanRefusedError) -> Response:
        faults = [RefusalOut(key=r.key, given=r.given, allowed=r.allowed) for r in error.refusals]
        if isinstance(error, PlanTooLargeError):
            return problem(413, "The document is too large; nothing was kept.", faults)
        count = f"{len(faults)} problem{'s' if len(faults) > 1 else ''} to fix"
        return problem(422, f"Not saved; nothing was changed. {count}:", faults)

    @app.errorhandler(NotAllowedError)
    @app.errorhandler(BadFileError)
    def not_allowed(error: NotAllowedError | BadFileError) -> Response:
        return problem(422, "Not saved; nothing was changed. Fix this and try again:", [fault_of(error)])

    @app.errorhandler(SourceDownError)
    def source_down(error: SourceDownError) -> Response:
        kept = "There is no earlier data from it."
        if error.last is not None:
            kept = "The last data from it are still there, with their age."
        return problem(502, f"No usable data from {error.name}: {error.why}. {kept}")

    @app.errorhandler(NotHereError)
    def not_here(error: NotHereError) -> Response:
        return problem(404, f"{error}".capitalize() + ".")

    @app.errorhandler(NewerWordError)
    def newer(_error: NewerWordError) -> Response:
        return problem(409, "Not saved: this item was answered again since. The newer answer stands.")

    @app.errorhandler(RevisionConflictError)
    def conflict(_error: RevisionConflictError) -> Response:
        return problem(
            409,
            "Not saved: this was changed in another window after you opened it. Reload, then make your change again.",
        )

    @app.errorhandler(DBAPIError)
    @app.errorhandler(DataGoneError)
    @app.errorhandler(OSError)
    def no_data(error: Exception) -> Response:
        said = sentence(error, database.folder, database.writer)
        if said is None:
            raise error
        log.error("%s", said)
        return problem(503, said)

    @app.errorhandler(HTTPException)
    def http(error: HTTPException) -> Response:
        return problem(error.code or 500, error.description or error.name)
