"""What cannot be bound, said in a sentence with the nearest counts that can."""

from dataclasses import dataclass

from half_fold.core.brief.bindings import binding_named, nearest_counts
from half_fold.core.brief.thickness import block, copy_thickness
from half_fold.core.publication.records import Publication


@dataclass(frozen=True, slots=True)
class BindingReport:
    """``sentence`` is '' where all is well; ``counts`` are page counts that can be bound instead."""

    sentence: str = ""
    counts: tuple[int, ...] = ()
    stops_press: bool = False


def binding_report(publication: Publication) -> BindingReport:
    """Whether this extent can be bound this way. The count is kept and reported, never changed."""
    binding = binding_named(publication.brief.binding)
    count = len(publication.pages)
    if count % binding.multiple:
        down, up = nearest_counts(count, binding.multiple)
        counts = tuple(dict.fromkeys((down, up)))
        which = " or ".join(str(n) for n in counts)
        rule = f"{binding.label.lower()} takes a multiple of {binding.multiple}"
        sentence = f"{count} pages cannot be bound: {rule}; {which} can."
        return BindingReport(sentence, counts, True)
    if binding.least_block_mm and block(publication).value < binding.least_block_mm:
        return BindingReport(
            f"A block of {block(publication).text} is thin for {binding.label.lower()} binding; "
            f"about {binding.least_block_mm:g} mm holds the glue. Ask the printer."
        )
    folded = copy_thickness(publication)
    if binding.most_folded_mm and folded.value > binding.most_folded_mm:
        return BindingReport(
            f"A folded copy of {folded.text} is thick for {binding.label.lower()}; "
            f"many machines stop at {binding.most_folded_mm:g} mm. Ask the printer."
        )
    return BindingReport()
