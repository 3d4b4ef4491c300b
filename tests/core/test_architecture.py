"""The order of the house: imports go one way, the core knows no Qt, and starting loads nothing heavy."""

import ast
import subprocess
import sys
from pathlib import Path

import half_fold

SOURCE = Path(half_fold.__file__).parent
ORDER = (
    "measure",
    "compiled",
    "drawing",
    "publication",
    "store",
    "brief",
    "plan",
    "typesetting",
    "grid",
    "pictures",
    "inks",
    "spread",
    "arrange",
    "catalogue",
    "legibility",
    "cover",
    "editing",
    "checks",
    "press",
    "numbers",
    "paths",
)


def _imports(path: Path) -> list[str]:
    tree = ast.parse(path.read_text(encoding="utf-8"))
    found = []
    for node in ast.walk(tree):
        if isinstance(node, ast.ImportFrom) and node.module:
            found.append(node.module)
        elif isinstance(node, ast.Import):
            found += [name.name for name in node.names]
    return found


def test_imports_inside_the_core_go_one_way() -> None:
    wrong = []
    for path in (SOURCE / "core").rglob("*.py"):
        room = path.relative_to(SOURCE / "core").parts[0]
        if room not in ORDER:
            continue
        for name in _imports(path):
            parts = name.split(".")
            if parts[:2] == ["half_fold", "core"] and len(parts) > 2 and ORDER.index(parts[2]) > ORDER.index(room):
                wrong.append(f"{path.name} imports {name}")
    assert not wrong


def test_records_are_made_in_one_way() -> None:
    """A dataclass writes and compiles its own methods at every start: nine times what a struct takes."""
    assert not [path.name for path in SOURCE.rglob("*.py") if "dataclasses" in _imports(path)]


def test_every_room_of_the_core_is_in_the_order() -> None:
    rooms = {path.name for path in (SOURCE / "core").iterdir() if path.is_dir() and not path.name.startswith("__")}
    assert rooms <= set(ORDER)


def test_the_core_imports_neither_the_desk_nor_qt() -> None:
    for path in (SOURCE / "core").rglob("*.py"):
        assert not [n for n in _imports(path) if n.startswith(("PyQt6", "half_fold.desk", "half_fold.cli"))], path


def _loaded_after(code: str) -> set[str]:
    script = f"import sys\n{code}\nprint(chr(10).join(sys.modules))"
    done = subprocess.run([sys.executable, "-c", script], capture_output=True, text=True, check=True)
    return {name.split(".")[0] for name in done.stdout.split()}


def test_importing_the_whole_core_never_loads_qt() -> None:
    modules = [
        ".".join(("half_fold", *p.relative_to(SOURCE).with_suffix("").parts)).removesuffix(".__init__")
        for p in (SOURCE / "core").rglob("*.py")
    ]
    assert not {"PyQt6", "PySide6"} & _loaded_after("\n".join(f"import {name}" for name in modules))


def test_opening_the_demo_loads_nothing_that_is_not_needed(demo: Path) -> None:
    code = f"""
from PyQt6.QtWidgets import QApplication
application = QApplication([])
from pathlib import Path
from half_fold.desk.application import Desk
window = Desk().open(Path({str(demo)!r}))
window.grab()
"""
    slow = {"scipy", "cv2", "docx", "odf", "pikepdf", "fontTools", "markdown_it", "numba", "spylls"}
    assert not slow & _loaded_after(code)
