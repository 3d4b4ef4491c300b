"""The parts of a word processor's file: XML in an archive, read within limits and without trusting it."""

import zipfile
import zlib
from collections.abc import Iterator
from pathlib import Path
from typing import Any

from half_fold.core.measure.problem import Problem

LARGEST_PART = 128 * 1024 * 1024  # octets of one part, unpacked
MOST_PARTS = 20_000
DEEPEST = 200  # elements within one another
Element = Any


class Package:
    """An open archive. Problem where it is none, or not within limits."""

    def __init__(self, path: Path) -> None:
        self._name, self._suffix = path.name, path.suffix
        try:
            self._zip = zipfile.ZipFile(path)
        except (OSError, zipfile.BadZipFile, ValueError, NotImplementedError) as error:
            raise Problem(f"“{path.name}” is no document that can be read; save it again as {path.suffix}.") from error
        self.names = self._zip.namelist()
        if len(self.names) > MOST_PARTS:
            raise Problem(f"“{path.name}” is made of too many parts to be a text; save it again as {path.suffix}.")

    def __enter__(self) -> "Package":
        return self

    def __exit__(self, *_: object) -> None:
        self._zip.close()

    def broken(self) -> Problem:
        """What is said of a file whose parts cannot be made sense of."""
        return Problem(f"“{self._name}” is damaged and cannot be read; save it again as {self._suffix}.")

    def xml(self, part: str) -> Element:
        """The root of a part. Problem where it is not there, too large, or no XML."""
        from lxml import etree

        try:
            with self._zip.open(part) as file:
                content = file.read(LARGEST_PART + 1)
        except (
            KeyError,
            OSError,
            zipfile.BadZipFile,
            zlib.error,
            EOFError,
            RuntimeError,
            NotImplementedError,
        ) as error:
            raise self.broken() from error
        if len(content) > LARGEST_PART:
            raise Problem(f"“{self._name}” unpacks to more than a text can be; split it.")
        parser = etree.XMLParser(resolve_entities=False, no_network=True, load_dtd=False, huge_tree=False)
        try:
            return etree.fromstring(content, parser)
        except (etree.XMLSyntaxError, ValueError) as error:
            raise self.broken() from error

    def optional(self, part: str) -> Element | None:
        """The root of a part that a file may lack."""
        return self.xml(part) if part in self.names else None


def element_name(element: Element) -> str:
    """An element's name without its namespace; "" for comments and instructions."""
    tag = element.tag
    return tag.rpartition("}")[2] if isinstance(tag, str) else ""


def attribute(element: Element, name: str) -> str:
    """An attribute by its name without the namespace; "" where there is none."""
    for key, value in element.attrib.items():
        if key.rpartition("}")[2] == name:
            return str(value)
    return ""


def child(element: Element | None, name: str) -> Element | None:
    """The first child of that name."""
    return next(children(element, name), None) if element is not None else None


def children(element: Element, name: str) -> Iterator[Element]:
    """The children of that name."""
    return (each for each in element if element_name(each) == name)


def whole(text: str, otherwise: int = 0) -> int:
    """A whole number as written in an attribute, or ``otherwise``."""
    try:
        return int(text)
    except ValueError:
        return otherwise
