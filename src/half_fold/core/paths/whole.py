"""What is stated as a whole by its name: inks, fades, looks, outputs, and what a style of texts becomes.

``ink.NAME``, ``fade.NAME``, ``look.NAME``, ``output.NAME``, ``text.NAME`` and ``set.NAME`` state one: what is not there
is added, and an empty value removes what nothing uses.
"""

import re
from collections.abc import Callable

from half_fold.core.inks.edits import remove_ink, state_ink
from half_fold.core.inks.fades import remove_fade, state_fade
from half_fold.core.inks.looks import add_look, remove_look
from half_fold.core.measure.problem import Problem
from half_fold.core.press.outputs import drop_output, state_output
from half_fold.core.publication.records import Look, Publication
from half_fold.core.spread.edits.sets import add_set, put_in_set, remove_set
from half_fold.core.typesetting.texts.reading import set_text_role

NEW = re.compile(r"(ink|fade|look|output|text|set)\.([^.]+)")


def _state_look(publication: Publication, name: str, text: str) -> Publication:
    there = next((look for look in publication.looks if look.name == name), None)
    if there is None:
        return add_look(publication, name, text.strip())
    if text.strip() == format_look(there):
        return publication
    raise Problem(f"There is a look “{name}” already; set what it has by look.{name}.shadow, .glow or .outline.")


def format_look(look: Look) -> str:
    """What a look has, in a few words."""
    there = (("outline", look.contours), ("shadow", look.shadow), ("glow", look.glow))
    parts = [name for name, part in there if part]
    return ", ".join([*(["fill"] if look.fill else []), *parts]) or "nothing"


def _state_set(publication: Publication, name: str, text: str) -> Publication:
    """A set with those things in it, by their ids; ``empty`` has none. One that is there takes them too."""
    if all(each.name != name for each in publication.sets):
        publication = add_set(publication, name)
    names = [] if text.strip() == "empty" else text.replace(",", " ").split()
    return put_in_set(publication, names, name)


_Made = tuple[Callable[[Publication, str, str], Publication], Callable[[Publication, str], Publication]]
_WAYS: dict[str, _Made] = {
    "ink": (state_ink, remove_ink),
    "fade": (state_fade, remove_fade),
    "look": (_state_look, remove_look),
    "output": (state_output, drop_output),
    "set": (_state_set, remove_set),
    "text": (set_text_role, lambda publication, found: set_text_role(publication, found, "")),
}


def state_new(publication: Publication, path: str, typed: str) -> Publication:
    """What a path names, stated as a whole. Problem where it cannot be."""
    found = NEW.fullmatch(path)
    assert found is not None
    state, remove = _WAYS[found[1]]
    return state(publication, found[2], typed) if typed.strip() else remove(publication, found[2])
