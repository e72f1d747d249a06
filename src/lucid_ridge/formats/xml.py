"""Parses untrusted XML: no document types, entities or external references."""

from __future__ import annotations

import re
from typing import Any
from xml.etree.ElementTree import Element, ParseError, TreeBuilder

from defusedxml.common import DefusedXmlException
from defusedxml.ElementTree import DefusedXMLParser

from .errors import FormatError
from .text import check_size

DEEPEST, MOST_TAGS = 60, 1_200_000


class _Shallow(TreeBuilder):
    """Builds the tree and stops at excessive nesting."""

    depth = 0

    def start(self, tag: str, attrs: Any) -> Element:
        self.depth += 1
        if self.depth > DEEPEST:
            raise FormatError(f"The file is nested more than {DEEPEST} deep; no file of places is.")
        return super().start(tag, attrs)

    def end(self, tag: str) -> Element:
        self.depth -= 1
        return super().end(tag)


def count_tags(content: bytes, *names: str) -> int:
    """Return how many elements of these local names a file opens, without parsing it."""
    return len(re.findall(rb"<(?:[\w.-]+:)?(?:%s)[\s/>]" % "|".join(names).encode(), content))


def parse_xml(content: bytes, root_name: str) -> Element:
    """Return the root element, whose local name must be root_name.

    Raises FormatError. Too large files are refused before parsing.
    """
    check_size(content)
    if content.count(b"<") > MOST_TAGS:
        raise FormatError(
            f"The file has more than {MOST_TAGS // 2:,} elements. Thin it out or split it.".replace(",", " ")
        )
    try:
        parser = DefusedXMLParser(target=_Shallow(), forbid_dtd=True)
        parser.feed(content)
        root: Element = parser.close()
    except DefusedXmlException:
        raise FormatError("The file declares a document type or entities; such files are not read.") from None
    except ParseError as error:
        raise FormatError(f"The file is not well-formed XML: {error}.") from None
    except (LookupError, ValueError, UnicodeError):
        raise FormatError("The file's text encoding cannot be read. Save it as UTF-8.") from None
    if local_name(root) != root_name:
        raise FormatError(
            f"This is not a {root_name.upper()} file: its outermost element is “{local_name(root)[:40]}”."
        )
    return root


def local_name(element: Element) -> str:
    """Return an element's name without its namespace."""
    return str(element.tag).rpartition("}")[2]


def children(element: Element, name: str) -> list[Element]:
    """Return all descendants of a local name."""
    return [item for item in element.iter() if local_name(item) == name]


def child_text(element: Element, name: str) -> str:
    """Return the text of the first direct child with a local name; empty if there is none."""
    return next(((item.text or "").strip() for item in element if local_name(item) == name), "")
