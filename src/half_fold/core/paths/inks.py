"""The paths of inks, fades and looks: each as a whole, its name, and every value of it."""

from collections.abc import Callable, Iterable, Iterator
from functools import partial
from typing import Any

from msgspec.structs import replace

from half_fold.core.inks import properties
from half_fold.core.inks.edits import rename_ink, said, set_ink
from half_fold.core.inks.fades import format_stops, rename_fade
from half_fold.core.inks.looks import rename_look
from half_fold.core.measure.number import number_between
from half_fold.core.paths.setting import Setting, setting_of
from half_fold.core.paths.whole import format_look, state_new
from half_fold.core.publication.property import Property
from half_fold.core.publication.records import Ink, Publication
from half_fold.core.publication.surgery import by_name, swap_named


def ink_settings(publication: Publication) -> Iterator[Setting]:
    """All that can be set of inks, fades, looks and the light."""
    for ink in publication.inks:
        path = f"ink.{ink.name}"
        yield Setting(path, "Ink", said(ink), partial(state_new, publication, path))
        yield Setting(f"{path}.name", "Name", ink.name, partial(rename_ink, publication, ink.name))
        yield from _values(publication, path, ink, properties.INK, _put_ink)
    for fade in publication.fades:
        path = f"fade.{fade.name}"
        yield Setting(path, "Fade", format_stops(fade), partial(state_new, publication, path))
        yield Setting(f"{path}.name", "Name", fade.name, partial(rename_fade, publication, fade.name))
        yield from _values(publication, path, fade, properties.FADE, _putter("fades"))
    for look in publication.looks:
        path = f"look.{look.name}"
        yield Setting(path, "Look", format_look(look), partial(state_new, publication, path))
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
