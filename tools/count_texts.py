"""What another reader counts in the sources of tests/data/texts; writes counts.json beside them.

Needs the pandoc command. Run by hand when a source is added; the documents made of it are called after it.
"""

import json
import re
import subprocess
from pathlib import Path
from typing import Any

FOLDER = Path(__file__).parents[1] / "tests/data/texts"
WORD = re.compile(r"[^\W\d_]{2,}")
NAMES = {"Header": "headings", "Note": "notes", "Table": "tables", "Link": "links", "Math": "equations"}


def _walk(node: Any, counts: dict[str, int], said: list[str]) -> None:
    if isinstance(node, list):
        for each in node:
            _walk(each, counts, said)
        return
    if not isinstance(node, dict):
        return
    kind, content = node.get("t"), node.get("c")
    if kind in NAMES:
        counts[NAMES[kind]] += 1
    elif kind in ("BulletList", "OrderedList"):
        counts["items"] += len(content if kind == "BulletList" else content[1])
    if kind == "Str":
        said.append(content)
    elif kind in ("Space", "SoftBreak", "LineBreak", "Para", "Plain", "Header", "Note"):
        said.append(" ")
    if kind != "Math":
        _walk(content, counts, said)
    if kind in ("Para", "Plain", "Header"):
        said.append(" ")


def main() -> None:
    told = {}
    for file in sorted((FOLDER / "sources").iterdir()):
        read = subprocess.run(["pandoc", file, "-t", "json"], capture_output=True, text=True, check=True).stdout
        counts, said = dict.fromkeys((*NAMES.values(), "items"), 0), list[str]()
        _walk(json.loads(read)["blocks"], counts, said)
        told[file.stem] = {**counts, "words": sorted(WORD.findall("".join(said)))}
    (FOLDER / "counts.json").write_text(json.dumps(told, ensure_ascii=False, indent=0) + "\n", encoding="utf-8")


if __name__ == "__main__":
    main()
