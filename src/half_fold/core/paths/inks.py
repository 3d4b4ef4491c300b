"""The paths of inks, fades and looks: each as a whole, its name, and every value of it.

``ink.NAME``, ``fade.NAME`` and ``look.NAME`` state one as a whole: what is not there is added, and an empty value
removes what nothing uses.
"""

import re
from collections.abc import Callable, Iterable, Iterator
from functools import partial
from typing import Any

from msgspec.structs import replace

from half_fold.core.inks import properties
from half_fold.core.inks.edits import remove_ink, rename_ink, said, set_ink, state_ink
from half_fold.core.inks.fades import remove_fade, rename_fade, said_stops, state_fade
from half_fold.core.inks.looks import add_look, remove_look, rename_look
from half_fold.core.measure.number import number_between
from half_fold.core.measure.problem import Problem
from half_fold.core.paths.setting import Setting, setting_of
from half_fold.core.publication.property import Property
from half_fold.core.publication.records import Ink, Look, Publication
from half_fold.core.publication.surgery import by_name, swap_named

NEW = re.compile(r"(ink|fade|look)\.([^.]+)")


def state_new(publication: Publication, path: str, typed: str) -> Publication:
    """An ink, fade or look stated as a whole. Problem where it cannot be."""
    found = NEW.fullmatch(path)
    assert found is not None
    kind, name = found.groups()
    state: Callable[[Publication, str, str], Publication]
    state, remove = {
        "ink": (state_ink, remove_ink),
        "fade": (state_fade, remove_fade),
        "look": (_state_look, remove_look),
    }[kind]
    return state(publication, name, typed) if typed.strip() else remove(publication, name)


def _state_look(publication: Publication, name: str, text: str) -> Publication:
    there = next((look for look in publication.looks if look.name == name), None)
    if there is None:
        return add_look(publication, name, text.strip())
    if text.strip() == said_look(there):
        return publication
    raise Problem(f"There is a look “{name}” already; set what it has by look.{name}.shadow, .glow or .outline.")


def said_look(look: Look) -> str:
    """What a look has, in a few words."""
    parts = [name for name in ("outline", "shadow", "glow") if getattr(look, name) is not None]
    return ", ".join([*(["fill"] if look.fill else []), *parts]) or "nothing"


def ink_settings(publication: Publication) -> Iterator[Setting]:
    """All that can be set of inks, fades, looks and the light."""
    for ink in publication.inks:
        path = f"ink.{ink.name}"
        yield Setting(path, "Ink", said(ink), partial(state_new, publication, path))
        yield Setting(f"{path}.name", "Name", ink.name, partial(rename_ink, publication, ink.name))
        yield from _values(publication, path, ink, properties.INK, _put_ink)
    for fade in publication.fades:
        path = f"fade.{fade.name}"
        yield Setting(path, "Fade", said_stops(fade), partial(state_new, publication, path))
        yield Setting(f"{path}.name", "Name", fade.name, partial(rename_fade, publication, fade.name))
        yield from _values(publication, path, fade, properties.FADE, _putter("fades"))
    for look in publication.looks:
        path = f"look.{look.name}"
        yield Setting(path, "Look", said_look(look), partial(state_new, publication, path))
        yield Setting(f"{path}.name", "Name", look.name, partial(rename_look, publication, look.name))
        yield from _values(publication, path, look, properties.LOOK, _putter("looks"))
    yield Setting("light", "Shadows fall", f"{publication.light:g}", partial(_lit, publication), "°")


def _lit(publication: Publication, text: str) -> Publication:
    return replace(publication, light=number_between(text.replace("°", ""), -360, 360, "angle of light"))


def _putter(field: str) -> Callable[[Publication, Any], Publication]:
    return lambda publication, made: replace(publication, **{field: swap_named(getattr(publication, field), made)})


def _put_ink(publication: Publication, made: Ink) -> Publication:
    was = by_name(publication.inks, made.name, "ink")
    changed = next((field for field in made.__struct_fields__ if getattr(made, field) != getattr(was, field)), "")
    return set_ink(publication, made.name, changed, getattr(made, changed)) if changed else publication


def _values(
    publication: Publication,
    path: str,
    thing: Any,
    table: Iterable[Property[Any]],
    put: Callable[[Publication, Any], Publication],
) -> Iterator[Setting]:
    for each in table:
        if not each.applies(thing):
            continue

        def take(text: str, each: Property[Any] = each) -> Publication:
            return put(publication, each.set(publication, thing, text))

        yield setting_of(path, each, publication, thing, take)
