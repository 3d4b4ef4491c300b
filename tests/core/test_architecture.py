"""The order of the house: imports go one way, the core knows no Qt, and starting loads nothing heavy."""

import ast
import importlib
import re
import subprocess
import sys
import typing
from collections.abc import Iterator
from functools import cache
from inspect import isclass
from pathlib import Path

import half_fold
from half_fold.core.publication.places import Record

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
    "apart",
    "legibility",
    "cover",
    "editing",
    "checks",
    "press",
    "numbers",
    "paths",
)


def _module_of(path: Path) -> str:
    return ".".join(("half_fold", *path.relative_to(SOURCE).with_suffix("").parts)).removesuffix(".__init__")


@cache
def _tree(path: Path) -> ast.Module:
    """A module, read once for all that is held of it."""
    return ast.parse(path.read_text(encoding="utf-8"))


@cache
def _nodes(path: Path) -> tuple[ast.ImportFrom | ast.Import | ast.FunctionDef, ...]:
    """Its imports and functions, wherever they stand."""
    kinds = (ast.ImportFrom, ast.Import, ast.FunctionDef)
    return tuple(node for node in ast.walk(_tree(path)) if isinstance(node, kinds))


@cache
def _imports(path: Path) -> list[str]:
    found = []
    for node in _nodes(path):
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
    modules = [_module_of(path) for path in (SOURCE / "core").rglob("*.py")]
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


def _kept_by_content() -> Iterator[tuple[Path, ast.FunctionDef]]:
    for path in SOURCE.rglob("*.py"):
        for node in _nodes(path):
            if isinstance(node, ast.FunctionDef):
                decorated = [ast.unparse(each) for each in node.decorator_list]
                if any(
                    each.startswith(("lru_cache", "cache", "functools.")) and "cached" not in each for each in decorated
                ):
                    yield path, node


def _has_record(kind: object) -> bool:
    return (isclass(kind) and issubclass(kind, Record)) or any(map(_has_record, typing.get_args(kind)))


def test_what_is_made_of_records_is_kept_by_the_one_keeper() -> None:
    """``lru_cache`` hashes the whole content of a record, and holds it for ever where it has no bound."""
    wrong = []
    for path, function in _kept_by_content():
        names = vars(typing) | vars(importlib.import_module(_module_of(path)))
        told = [ast.unparse(each.annotation).strip('"') for each in function.args.args if each.annotation is not None]
        if any(_has_record(eval(each, names)) for each in told):
            wrong.append(f"{path.name}: {function.name}")
    assert not wrong


def _arrows() -> dict[str, set[str]]:
    """Which module imports which, in whatever way: inside functions and for types alone too."""
    modules = {_module_of(path): path for path in SOURCE.rglob("*.py")}
    found: dict[str, set[str]] = {}
    for name, path in modules.items():
        asked = set()
        for node in _nodes(path):
            if isinstance(node, ast.ImportFrom) and node.module:
                asked |= {f"{node.module}.{each.name}" for each in node.names} | {node.module}
        inner = {each for each in asked if each in modules}
        found[name] = {each for each in inner if not any(other.startswith(f"{each}.") for other in inner)} - {name}
    return found


def test_no_imports_go_in_a_circle() -> None:
    left = _arrows()
    while True:
        ends = {name for name, asked in left.items() if not asked & left.keys()}
        if not ends:
            break
        left = {name: asked for name, asked in left.items() if name not in ends}
    begins = {name for name in left if any(name in asked for asked in left.values())}
    assert not begins


MOST_FILES, MOST_LINES = 30, 400
TABLES = {"core/spread/settable/properties.py"}  # of what can be set, declared once


def test_rooms_and_modules_are_small_enough_to_find_the_way() -> None:
    rooms = [path for path in SOURCE.rglob("*") if path.is_dir() and path.name != "__pycache__"]
    assert {path.name: count for path in rooms if (count := len(list(path.glob("*.py")))) > MOST_FILES} == {}
    long = {
        str(path.relative_to(SOURCE))
        for path in SOURCE.rglob("*.py")
        if len(path.read_text(encoding="utf-8").splitlines()) > MOST_LINES
    }
    assert long <= TABLES


# What every module of a kind has, or what begins a process.
COMMON = {"do", "takes", "main"}


def test_no_public_name_means_two_things() -> None:
    """``laid`` was six functions in six modules: who searched for one found the others."""
    found: dict[str, list[str]] = {}
    for path in SOURCE.rglob("*.py"):
        for node in _tree(path).body:
            if isinstance(node, ast.FunctionDef | ast.ClassDef) and not node.name.startswith("_"):
                found.setdefault(node.name, []).append(str(path.relative_to(SOURCE)))
    assert {name: places for name, places in found.items() if len(places) > 1 and name not in COMMON} == {}


def test_an_edit_begins_with_a_verb() -> None:
    """What takes a job and gives it changed says what it does, not what became of it."""
    become = re.compile(r"(?!shed|bleed|embed|need|feed)[a-z]+ed(_|$)|(made|drawn|kept|laid|seen|given|taken)(_|$)")
    wrong = []
    for path in (SOURCE / "core").rglob("*.py"):
        for node in _tree(path).body:
            if not isinstance(node, ast.FunctionDef) or node.name.startswith("_") or node.returns is None:
                continue
            gives = ast.unparse(node.returns).removeprefix("tuple[").startswith("Publication")
            takes = {ast.unparse(each.annotation) for each in node.args.args if each.annotation is not None}
            if gives and "Publication" in takes and become.match(node.name):
                wrong.append(f"{path.name}: {node.name}")
    assert not wrong
