"""XML from anywhere: no document types, no entities, no outside references."""

from __future__ import annotations

from xml.etree.ElementTree import Element, ParseError

from defusedxml.common import DefusedXmlException
from defusedxml.ElementTree import fromstring

from .errors import FormatError
from .text import check_size


def parse_xml(content: bytes, root_name: str) -> Element:
    """Return the root element, whose local name must be root_name. Raises FormatError for everything else."""
    check_size(content)
    try:
        root: Element = fromstring(content, forbid_dtd=True)
    except DefusedXmlException:
        raise FormatError("The file declares a document type or entities; such files are not read.") from None
    except ParseError as error:
        raise FormatError(f"The file is not well-formed XML: {error}.") from None
    except (LookupError, ValueError, UnicodeError):
        raise FormatError("The file's text encoding cannot be read. Save it as UTF-8.") from None
    if local_name(root) != root_name:
        raise FormatError(f"This is not a {root_name.upper()} file: its outermost element is “{local_name(root)[:40]}”.")
    return root


def local_name(element: Element) -> str:
    """Return an element's name without its namespace."""
    return str(element.tag).rpartition("}")[2]


def children(element: Element, name: str) -> list[Element]:
    """Return all descendants of a local name."""
    return [item for item in element.iter() if local_name(item) == name]


def child_text(element: Element, name: str) -> str:
    """Return the text of the first direct child of a local name, empty where there is none."""
    return next(((item.text or "").strip() for item in element if local_name(item) == name), "")
