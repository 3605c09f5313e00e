"""XML from strangers: no entities, no external files, no document types."""

from __future__ import annotations

from xml.etree.ElementTree import Element, ParseError

from defusedxml import DefusedXmlException
from defusedxml.ElementTree import fromstring

from zealous_lark.formats.errors import BadFileError


def parsed(data: bytes, what: str) -> Element:
    """The root of an XML document. Raises BadFileError for anything that is not, or that plays tricks."""
    try:
        root: Element = fromstring(data, forbid_dtd=True)
    except DefusedXmlException:
        raise BadFileError(
            "a document type or entities, which Lark doesn't read", f"plain {what} without them"
        ) from None
    except (ParseError, ValueError, UnicodeError, LookupError, RecursionError) as error:
        raise BadFileError(f"XML that cannot be read ({error})", what) from None
    return root


def local(element: Element) -> str:
    """An element's name without its namespace."""
    return str(element.tag).rsplit("}", 1)[-1]


def child_text(element: Element, name: str) -> str:
    """The text of the first child of a name, or nothing."""
    return next(((c.text or "").strip() for c in element if local(c) == name), "")
