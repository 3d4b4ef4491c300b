"""100,000 words, justified, hyphenated and kerned to 240 pt, against ReportLab's greedy Paragraph.wrap."""

import random
import time

from reportlab.lib.enums import TA_JUSTIFY
from reportlab.lib.styles import ParagraphStyle
from reportlab.platypus import Paragraph as TheirParagraph

from benchmarks.report import line, medians
from half_fold.core.plan.starters import start
from half_fold.core.publication.records import Paragraph, Run
from half_fold.core.publication.surgery import role_named
from half_fold.core.typesetting.lines.composer import Composer, LineRequest
from half_fold.core.typesetting.lines.roles import style_of

WORDS, MEASURE = 100_000, 240.0


def text() -> list[str]:
    """About 1,000 paragraphs in English word order, from the demo's own articles."""
    from importlib.resources import files

    folder = files("half_fold.data").joinpath("demo", "texts")
    sentences = [
        s.strip() + "."
        for path in sorted(folder.iterdir(), key=lambda p: p.name)
        for s in path.read_text(encoding="utf-8").replace("*", "").replace("#", "").split(".")
        if len(s.split()) > 3
    ]
    rng, out, count = random.Random(14), [], 0
    while count < WORDS:
        paragraph = " ".join(" ".join(rng.choice(sentences).split()) for _ in range(rng.randint(3, 9)))
        out.append(paragraph)
        count += len(paragraph.split())
    return out


def run() -> None:
    paragraphs = text()
    role = role_named(start("book", "Bench"), "body")
    style = style_of(role, "en_GB")
    theirs_style = ParagraphStyle("body", fontName="Times-Roman", fontSize=11, leading=14, alignment=TA_JUSTIFY)
    warm = Composer()

    def set_all(composer: Composer) -> float:
        records = [Paragraph(role="body", runs=(Run(text=words),)) for words in paragraphs]
        begun = time.perf_counter()
        composer.prepare([LineRequest(record, style, (MEASURE,), True) for record in records])
        return time.perf_counter() - begun

    def theirs() -> float:
        begun = time.perf_counter()
        for words in paragraphs:
            TheirParagraph(words, theirs_style).wrap(MEASURE, 1e6)
        return time.perf_counter() - begun

    set_all(warm)
    raw, wrap = medians(lambda: set_all(Composer()), theirs, 5)
    line("setting", raw, wrap, "100,000 words from raw text, cold tables; theirs: ReportLab's greedy wrap (bar: 0.25)")
    kept, wrap = medians(lambda: set_all(warm), theirs, 5)
    line("setting", kept, wrap, "the same with a warm token table (bar: 0.125)")
