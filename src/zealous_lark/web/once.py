"""Answers that take long are worked out once: who asks for the same meanwhile waits for the same answer."""

from __future__ import annotations

from collections.abc import Callable
from concurrent.futures import Future
from functools import wraps
from threading import Lock
from typing import Any

from flask import Response, current_app, request

from zealous_lark.web.context import database

Answer = tuple[bytes, int, str | None]


def once_at_a_time(view: Callable[..., Any]) -> Callable[..., Any]:
    """Let those who ask for one address, of data that nobody changed meanwhile, wait for one answer."""
    running: dict[tuple[int, int, str], Future[Answer]] = {}
    lock, one_at_a_time = Lock(), Lock()

    @wraps(view)
    def shared(*args: Any, **kwargs: Any) -> Any:
        db = database()
        key = (id(db), db.changes, request.full_path)
        with lock:
            waiting = running.get(key)
            if waiting is None:
                made: Future[Answer] = Future()
                running[key] = made
        if waiting is not None:
            body, status, kind = waiting.result()
            return Response(body, status, mimetype=kind)
        try:
            with one_at_a_time:
                answer = current_app.make_response(view(*args, **kwargs))
            made.set_result((answer.get_data(), answer.status_code, answer.mimetype))
            return answer
        except BaseException as error:
            made.set_exception(error)
            raise
        finally:
            with lock:
                running.pop(key, None)

    return shared
