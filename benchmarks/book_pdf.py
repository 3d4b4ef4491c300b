"""A whole 300-page book of text from a text file to a PDF, as whole processes, against ReportLab's platypus."""

import os
import subprocess
import sys
import tempfile
import time
from pathlib import Path

from benchmarks.report import line, medians
from benchmarks.setting import text

PAGES, WORDS_A_PAGE = 300, 435
_THEIRS = """
import sys
from pathlib import Path
from reportlab.lib.enums import TA_JUSTIFY
from reportlab.lib.styles import ParagraphStyle
from reportlab.lib.units import mm
from reportlab.pdfbase import pdfmetrics
from reportlab.pdfbase.ttfonts import TTFont
from reportlab.platypus import Paragraph, SimpleDocTemplate
pdfmetrics.registerFont(TTFont("Text", sys.argv[3]))
style = ParagraphStyle("body", fontName="Text", fontSize=11, leading=14, alignment=TA_JUSTIFY, firstLineIndent=14)
document = SimpleDocTemplate(sys.argv[2], pagesize=(138 * mm, 216 * mm), leftMargin=19 * mm, rightMargin=17 * mm,
                             topMargin=20 * mm, bottomMargin=26 * mm)
document.build([Paragraph(words, style) for words in Path(sys.argv[1]).read_text().split("\\n\\n")])
"""
_OURS = """
import sys
from pathlib import Path
from half_fold.core.plan.starters import start
from half_fold.core.press.make import press
from half_fold.core.spread.setting.compose import Setter
from half_fold.core.spread.edits.placing import place_story
from half_fold.core.typesetting.texts.text_in import read_text_file
setter = Setter()
reading = read_text_file(Path(sys.argv[1]))
job, _ = place_story(start("book", "Book"), setter, "Book", tuple(reading.paragraphs))
press(job, Path("."), Path(sys.argv[2]), setter=setter)
import os
os._exit(0)
"""


def _seconds(code: str, *words: str) -> float:
    begun = time.perf_counter()
    subprocess.run([sys.executable, "-c", code, *words], env=dict(os.environ), check=True)
    return time.perf_counter() - begun


def run() -> None:
    from half_fold.core.typesetting.faces.faces import face_file

    paragraphs, chosen, count = text() * 2, [], 0
    while count < PAGES * WORDS_A_PAGE:
        chosen.append(paragraphs[len(chosen)])
        count += len(chosen[-1].split())
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        source = folder / "book.txt"
        source.write_text("\n\n".join(chosen))
        font = str(face_file("EB Garamond/Regular"))
        ours, theirs = medians(
            lambda: _seconds(_OURS, str(source), str(folder / "ours.pdf")),
            lambda: _seconds(_THEIRS, str(source), str(folder / "theirs.pdf"), font),
            5,
        )
        import pikepdf

        pages = [len(pikepdf.open(folder / f"{who}.pdf").pages) for who in ("ours", "theirs")]
    line("book_pdf", ours, theirs, f"{count} words to {pages[0]} and {pages[1]} pages; theirs: ReportLab (bar: 0.7)")
