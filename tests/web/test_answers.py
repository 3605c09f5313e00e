"""What is said to the items of a session's lists, and in which order it counts."""

from __future__ import annotations

from datetime import datetime, timedelta
from itertools import permutations
from typing import Any

import pytest
from flask.testing import FlaskClient

from tests.conftest import NOW

ADDRESS = "/api/sessions/1/answers/kit"


def say(client: FlaskClient, item: str, word: str | None = "done", **more: Any) -> Any:
    return client.put(ADDRESS, json={"item": item, "word": word, **more})


def test_ticks_are_kept_one_by_one_and_taken_back(demo_client: FlaskClient) -> None:
    say(demo_client, "cards")
    assert set(say(demo_client, "cloth").json["answers"]) == {"cards", "cloth"}
    assert set(say(demo_client, "cards", None).json["answers"]) == {"cloth"}
    assert set(demo_client.get(ADDRESS).json["answers"]) == {"cloth"}
    # The lists of a session do not know of each other.
    assert demo_client.get("/api/sessions/1/answers/walkround").json["answers"] == {}


def test_what_the_device_kept_meanwhile_has_the_time_at_which_it_was_said(demo_client: FlaskClient) -> None:
    kept = say(demo_client, "cards", ago_s=600).json["answers"]["cards"]
    assert datetime.fromisoformat(kept["said_at"]) == NOW - timedelta(minutes=10)


@pytest.mark.parametrize("word", ["done", None])
def test_an_older_word_that_comes_late_does_not_replace_a_newer(demo_client: FlaskClient, word: str | None) -> None:
    say(demo_client, "cards", "fault")
    assert say(demo_client, "cards", word, ago_s=60).status_code == 409
    assert demo_client.get(ADDRESS).json["answers"]["cards"]["word"] == "fault"
    # Said in the same moment: the last to come counts.
    assert say(demo_client, "cards", word).status_code == 200
    assert demo_client.get(ADDRESS).json["answers"].get("cards", {}).get("word") == word


def test_what_was_taken_back_is_not_brought_back_by_an_older_word(demo_client: FlaskClient) -> None:
    say(demo_client, "cards")
    say(demo_client, "cards", None)
    assert say(demo_client, "cards", ago_s=60).status_code == 409
    assert demo_client.get(ADDRESS).json["answers"] == {}
    assert set(say(demo_client, "cards").json["answers"]) == {"cards"}


def test_in_whatever_order_words_come_the_last_said_stands(demo_client: FlaskClient) -> None:
    for number, order in enumerate(permutations([0, 60, 120, 3_600])):
        for ago_s in order:
            say(demo_client, f"item {number}", value=ago_s, ago_s=ago_s)
        found = demo_client.get(ADDRESS).json["answers"]
        assert found[f"item {number}"]["value"] == 0


@pytest.mark.parametrize(
    ("address", "body", "status", "key"),
    [
        ("/api/sessions/999/answers/kit", {"item": "x", "word": "done"}, 404, None),
        ("/api/sessions/1/answers/shopping", {"item": "x", "word": "done"}, 422, "list"),
        (ADDRESS, {"item": "", "word": "done"}, 422, "item"),
        (ADDRESS, {"item": "x", "word": "maybe"}, 422, "word"),
        (ADDRESS, {"item": "x", "word": "skip", "note": "  "}, 422, "note"),
        (ADDRESS, {"item": "x", "word": "done", "ago_s": -1}, 422, "ago_s"),
        (ADDRESS, {"item": "x", "word": "done", "ago_s": 40 * 86_400}, 422, "ago_s"),
        (ADDRESS, {"item": "x", "word": "done", "value": 1e9}, 422, "value"),
    ],
)
def test_what_cannot_be_kept_is_refused_by_name(
    demo_client: FlaskClient, address: str, body: dict[str, Any], status: int, key: str | None
) -> None:
    answer = demo_client.put(address, json=body)
    assert answer.status_code == status
    if key:
        assert answer.json["refusals"][0]["key"] == key
    assert demo_client.get(ADDRESS).json["answers"] == {}


def test_a_list_that_is_not_there_says_which_are(demo_client: FlaskClient) -> None:
    answer = demo_client.get("/api/sessions/1/answers/shopping")
    assert answer.status_code == 422
    assert answer.json["refusals"][0]["allowed"] == "kit, look_round, walkround, drills, after"
    assert demo_client.get("/api/sessions/999/answers/kit").status_code == 404
