"""What an ink lays on the paper, and how many of each thing a spread or a cover has, with the usual limits."""

from collections.abc import Iterable

from msgspec import Struct

from half_fold.core.brief.allowances import ink_limit
from half_fold.core.drawing.marks import Glyphs, Mark, leaves, paints
from half_fold.core.drawing.tone import WHITE, Tone
from half_fold.core.inks.edits import SHARES
from half_fold.core.measure.kept import kept
from half_fold.core.measure.length import counted, figure
from half_fold.core.publication.records import Ink, Publication

MOST_INKS, MOST_FAMILIES = 3, 2  # beyond black and paper: what a scheme commonly holds together


def ink_total(ink: Ink) -> float:
    """Per cent of ink on the paper: a spot is one ink, its stand-in does not count."""
    return 100.0 if ink.spot else sum(getattr(ink, share) for share in SHARES)


def format_total(publication: Publication, ink: Ink) -> str:
    """``250 % of ink, of 320 % at the most``."""
    limit, _ = ink_limit(publication)
    over = "more than the" if ink_total(ink) > limit else "of the"
    return f"{figure(ink_total(ink), 0)} % of ink, {over} {limit} % there may be"


def format_limit(publication: Publication, ink: Ink) -> str:
    """How much there may be, and who says so; a spot is one ink whatever stands in for it."""
    limit, says = ink_limit(publication)
    over = "more than" if ink_total(ink) > limit else "of"
    return f"{over} the {limit} % there may be: {says}"


class Scheme(Struct, frozen=True):
    """How many inks outside of pictures (black and bare paper apart), families and sizes there are."""

    inks: int
    families: int
    sizes: int

    @property
    def words(self) -> str:
        """``2 inks, 2 families, 7 sizes``."""
        families = "1 family" if self.families == 1 else f"{self.families} families"
        return ", ".join((counted(self.inks, "ink"), families, counted(self.sizes, "size")))

    @property
    def note(self) -> str:
        """What goes beyond what is usual; "" where nothing does."""
        told = []
        if self.inks > MOST_INKS:
            told.append(f"more than {MOST_INKS} inks")
        if self.families > MOST_FAMILIES:
            told.append(f"more than {MOST_FAMILIES} families")
        return f"{' and '.join(told)}: a scheme of fewer holds together better" if told else ""


def scheme_of(parts: Iterable[tuple[Mark, ...]]) -> Scheme:
    """Counted over all marks of some parts; tints of an ink are that ink, and so is each tone of a fade."""
    told = [_counted(part) for part in parts]
    inks, families, sizes = (set().union(*(each[at] for each in told)) for at in range(3))
    return Scheme(len(inks), len(families), len(sizes))


@kept(2000)
def _counted(marks: tuple[Mark, ...]) -> tuple[frozenset[object], frozenset[object], frozenset[object]]:
    """The inks, families and sizes of marks, which stay the same as long as what they are of does."""
    tones: set[Tone] = set()
    families: set[object] = set()
    sizes: set[object] = set()
    for mark in leaves(marks):
        if isinstance(mark, Glyphs):
            if mark.texts and any(mark.texts):
                families.add(mark.face)
                sizes.add(round(mark.size, 2))
            if isinstance(mark.colour, Tone):  # as most are
                tones.add(mark.colour)
                continue
        tones.update(paints(mark))
    inks = {_ink(tone) for tone in tones if tone != WHITE and (tone.spot is not None or tone.c or tone.m or tone.y)}
    families = {str(face).partition("/")[0] for face in families}
    return frozenset(inks), frozenset(families), frozenset(sizes)


def _ink(tone: Tone) -> object:
    """What tints of an ink have in common."""
    if tone.spot is not None:
        return (tone.spot,)
    strongest = max(tone.c, tone.m, tone.y, tone.k, tone.s)
    return tuple(round(share / strongest, 2) for share in (tone.c, tone.m, tone.y, tone.k))
