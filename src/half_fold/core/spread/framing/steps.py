"""Single steps of how pictures are treated: which are set, one let go, one given to others."""

from collections.abc import Sequence

from half_fold.core.measure.problem import Problem
from half_fold.core.pictures.colour.treatment_properties import TREATMENT
from half_fold.core.publication.property import named
from half_fold.core.publication.records import Block, Publication, Treatment
from half_fold.core.publication.surgery import block_named, is_free, require_free
from half_fold.core.spread.setting.developed import own_treatment, treat_anew


def steps_set(block: Block) -> list[tuple[str, str]]:
    """The keys and words of the steps that a picture has of its own."""
    own, neutral = own_treatment(block), Treatment()
    if own is None:
        return []
    return [(each.key, each.label) for each in TREATMENT if each.read(own) != each.read(neutral)]


def without_step(publication: Publication, name: str, key: str) -> Publication:
    """A picture with that step as it is at first. Problem where it is locked, or there is no such step."""
    block, of = block_named(publication, name), named(TREATMENT, key)
    require_free(publication, name)
    return treat_anew(publication, block, of.write(own_treatment(block) or Treatment(), of.read(Treatment())))


def with_step_of_last(publication: Publication, names: Sequence[str], key: str) -> Publication:
    """One step of the last of some pictures given to all of them; those that are locked stay.

    Problem where the last has no treatment of its own, or there is no such step.
    """
    of, last = named(TREATMENT, key), own_treatment(block_named(publication, names[-1]))
    if last is None:
        raise Problem("The picture chosen last is as it came; treat it first.")
    for name in names[:-1]:
        block = block_named(publication, name)
        if is_free(publication, name):
            made = of.write(own_treatment(block) or Treatment(), of.read(last))
            publication = treat_anew(publication, block, made)
    return publication
