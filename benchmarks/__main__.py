"""``./run bench [NAME]``: one line a benchmark with the two medians and their ratio."""

import compileall
import sys
from pathlib import Path

import half_fold
from benchmarks import (
    arranging,
    book,
    book_pdf,
    brief,
    bringing,
    cover,
    hands,
    inks,
    keystroke,
    photos,
    reading,
    setting,
    spaces,
    start,
    strip,
)

ALL = {
    "start": start.run,
    "setting": setting.run,
    "hands": hands.run,
    "inks": inks.run,
    "strip": strip.run,
    "brief": brief.run,
    "keystroke": keystroke.run,
    "book": book.run,
    "arranging": arranging.run,
    "reading": reading.run,
    "cover": cover.run,
    "book_pdf": book_pdf.run,
    "photos": photos.run,
    "bringing": bringing.run,
    "spaces": spaces.run,
}


def main() -> int:
    wanted = sys.argv[1:] or list(ALL)
    unknown = [name for name in wanted if name not in ALL]
    if unknown:
        print(f"There is no benchmark “{unknown[0]}”; there are {', '.join(ALL)}.", file=sys.stderr)
        return 2
    compileall.compile_dir(Path(half_fold.__file__).parent, quiet=1)  # as it is once it has been set up
    for name in wanted:
        ALL[name]()
    return 0


sys.exit(main())
