"""What can be set of the parts of a picture that are treated by themselves."""

from typing import Any

from msgspec.structs import replace

from half_fold.core.pictures.colour.region_words import format_region, parse_region
from half_fold.core.pictures.colour.treatment_properties import IN_AREAS
from half_fold.core.publication.property import Property
from half_fold.core.publication.records import Area, Block, Treatment
from half_fold.core.spread.setting.developed import own_treatment, with_treatment

PART = "treatment.part."


def part_properties(block: Block) -> list[Property[Block]]:
    """Of each part, counted from 1: where it is, and each step of its treatment."""
    treatment = own_treatment(block)
    count = len(treatment.areas) if treatment is not None else 0
    return [each for index in range(count) for each in _of_part(index)]


def _of_part(index: int) -> list[Property[Block]]:
    prefix = f"{PART}{index + 1}."
    where: Property[Block] = Property(
        f"{prefix}where",
        f"Part {index + 1}",
        "text",
        lambda block: format_region(_area(block, index).where),
        lambda block, text: _with(block, index, replace(_area(block, index), where=parse_region(text))),
        note="in per cent of the picture; “outside” after it is all but that",
    )
    return [where, *(_step(index, prefix, of) for of in IN_AREAS)]


def _step(index: int, prefix: str, of: Property[Treatment]) -> Property[Block]:
    def write(block: Block, value: Any) -> Block:
        area = _area(block, index)
        return _with(block, index, replace(area, treatment=of.write(area.treatment, value)))

    assert not callable(of.choices)
    return Property(
        f"{prefix}{of.key}", of.label, of.kind, lambda block: of.read(_area(block, index).treatment), write,
        of.least, of.most, of.unit, of.choices, of.none, of.note, (),
        lambda block: of.applies(_area(block, index).treatment),
    )  # fmt: skip


def _area(block: Block, index: int) -> Area:
    treatment = own_treatment(block)
    assert treatment is not None
    return treatment.areas[index]


def _with(block: Block, index: int, area: Area) -> Block:
    treatment = own_treatment(block)
    assert treatment is not None
    areas = (*treatment.areas[:index], area, *treatment.areas[index + 1 :])
    return with_treatment(block, replace(treatment, areas=areas))
