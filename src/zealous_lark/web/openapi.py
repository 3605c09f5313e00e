"""One component for each thing in the OpenAPI document, wherever it is used.

The framework writes the parts of each body again under the body's own name ("SessionOut.PlanDocument"); what is alike
in all that it says and in all that it refers to becomes one component here.
"""

from __future__ import annotations

import json
from collections.abc import Iterator
from typing import Any

_REF = "#/components/schemas/"


def _refs(value: Any) -> Iterator[tuple[Any, Any]]:
    """Where something refers to a component: the mapping or list that holds the reference, and its key there."""
    parts = value.items() if isinstance(value, dict) else enumerate(value) if isinstance(value, list) else ()
    for key, part in parts:
        if isinstance(part, str) and part.startswith(_REF):
            yield value, key
        else:
            yield from _refs(part)


def _kinds(schemas: dict[str, Any]) -> dict[str, int]:
    """A number for each component, the same for those that are alike with all that they refer to."""
    said = {name: json.dumps(schema, sort_keys=True) for name, schema in schemas.items()}
    targets = {name: [holder[key][len(_REF) :] for holder, key in _refs(schema)] for name, schema in schemas.items()}
    # What is said, without whose part it is; then, again and again, with the kinds that are referred to.
    for name, refs in targets.items():
        for target in refs:
            said[name] = said[name].replace(f'"{_REF}{target}"', f'"{_short(target)}"')

    def numbered(keys: dict[str, Any]) -> dict[str, int]:
        numbers: dict[Any, int] = {}
        return {name: numbers.setdefault((_short(name), key), len(numbers)) for name, key in keys.items()}

    kinds = numbered(said)
    while True:
        finer = numbered({n: (said[n], tuple(kinds[t] for t in targets[n])) for n in schemas})
        if len(set(finer.values())) == len(set(kinds.values())):
            return finer
        kinds = finer


def _short(name: str) -> str:
    return name.rsplit(".", 1)[-1]


def share_components(spec: Any) -> Any:
    """The document with its components shared; a name that means several things gets a number from the second on."""
    schemas: dict[str, Any] = spec["components"]["schemas"]
    kinds = _kinds(schemas)
    names: dict[int, str] = {}
    meant: dict[str, int] = {}
    # Bodies themselves keep their names, before parts that are called alike.
    for name in sorted(schemas, key=lambda n: ("." in n, n)):
        if kinds[name] in names:
            continue
        short, number = _short(name), meant.get(_short(name), 0) + 1
        meant[short] = number
        names[kinds[name]] = short if number == 1 else f"{short}{number}"
    for holder, key in _refs(spec):
        holder[key] = _REF + names[kinds[holder[key][len(_REF) :]]]
    shared = {names[kinds[name]]: schema for name, schema in schemas.items()}
    spec["components"]["schemas"] = dict(sorted(shared.items()))
    return spec


_PROBLEMS = (
    ("Refused", "4XX", "Refused"),
    ("OutOfReach", "503", "The data are held, full, moved or damaged; the message says by what, and what to do"),
)
"""Name, status, and when."""
_METHODS = {"get", "put", "post", "delete", "patch"}


def document_refusals(spec: Any) -> Any:
    """The document with what every operation may answer to a bad request, or when the data are out of reach."""
    content = {"application/json": {"schema": {"$ref": f"{_REF}HTTPError"}}}
    shared = spec["components"].setdefault("responses", {})
    for name, _, why in _PROBLEMS:
        shared[name] = {"description": why, "content": content}
    for operations in spec["paths"].values():
        for method, operation in operations.items():
            if method in _METHODS:
                for name, status, _ in _PROBLEMS:
                    operation["responses"].setdefault(status, {"$ref": f"#/components/responses/{name}"})
    return spec
