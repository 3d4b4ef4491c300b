"""What cannot be bound, said in a sentence with the nearest counts that can."""

from msgspec import Struct

from half_fold.core.brief.bindings import binding_named
from half_fold.core.publication.records import Publication


class BindingReport(Struct, frozen=True):
    """``sentence`` is '' where all is well; ``counts`` are page counts that can be bound instead."""

    sentence: str = ""
    counts: tuple[int, ...] = ()
    stops_press: bool = False


def binding_report(publication: Publication) -> BindingReport:
    """Whether this extent can be bound this way. The count is kept and reported, never changed."""
    binding = binding_named(publication.brief.binding)
    count = len(publication.pages)
    if not binding.takes(count):
        counts = binding.nearest(count)
        which = " or ".join(str(n) for n in counts)
        rule = binding.rule or f"{binding.label.lower()} takes a multiple of {binding.multiple}"
        blank = counts[-1] - count
        add = f" ({blank} blank to add)" if blank > 0 else ""
        return BindingReport(f"{count} pages cannot be bound: {rule}; {which} can{add}.", counts, True)
    asked = publication.printer.multiple if publication.printer is not None else 0
    if asked and binding.bound and count % asked:
        down, up = max(asked, count // asked * asked), -(-count // asked) * asked
        assert publication.printer is not None
        sentence = f"{count} pages are not what {publication.printer.name} takes: multiples of {asked}, {down} or {up}."
        return BindingReport(sentence, tuple(dict.fromkeys((down, up))), True)
    return BindingReport(binding.worry(publication))
