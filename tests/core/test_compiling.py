"""Compiled procedures: kept, loaded again, and interpreted to the same results where there is no compiler."""

import sys
from collections.abc import Iterator
from pathlib import Path

import numpy as np
import pytest

from half_fold.core.typesetting import compiling
from half_fold.core.typesetting.compiling import Reals, Wholes, known


@known
def _summed(values: Reals, count: int, factor: float, sums: Reals, odd: Wholes) -> int:
    """Running sums of ``factor`` times the values, and how many of them were odd."""
    total = 0.0
    odd[0] = 0
    for i in range(count):
        total += factor * values[i]
        sums[i] = total
        if int(values[i]) % 2 == 1:
            odd[0] += 1
    return count


@pytest.fixture
def kept_in(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Iterator[Path]:
    """A place of its own for what is compiled, with only the procedure above known."""
    monkeypatch.setattr(compiling, "_places", lambda _source: (tmp_path / "kept",))
    monkeypatch.setattr(compiling, "_known", {name: p for name, p in compiling._known.items() if "_summed" in name})
    monkeypatch.setattr(compiling, "_compiled", {})
    yield tmp_path / "kept"


def _run() -> tuple[int, list[float], int]:
    sums, odd = np.empty(4), np.empty(1, np.int64)
    count = _summed(np.array([1.0, 2.0, 3.0, 5.0]), 4, 0.5, sums, odd)
    return count, sums.tolist(), int(odd[0])


BY_HAND = (4, [0.5, 1.5, 3.0, 5.5], 3)


def test_interpreted_and_compiled_fill_the_same_arrays(kept_in: Path) -> None:
    assert not compiling.is_loaded() and _run() == BY_HAND
    compiling.load()
    assert compiling.is_loaded() and _run() == BY_HAND


def test_what_was_compiled_is_loaded_without_the_compiler(kept_in: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    compiling.load()
    assert len(list(kept_in.iterdir())) == 1
    compiling.forget()
    monkeypatch.setitem(sys.modules, "numba", None)
    compiling.load()
    assert compiling.is_loaded() and _run() == BY_HAND


def test_damaged_code_is_made_anew_and_never_run(kept_in: Path) -> None:
    compiling.load()
    (file,) = kept_in.iterdir()
    whole = file.read_bytes()
    for damaged in (whole[:200], b"", whole[:-1] + bytes([whole[-1] ^ 1])):
        file.write_bytes(damaged)
        compiling.forget()
        compiling.load()
        assert _run() == BY_HAND and len(file.read_bytes()) >= len(whole) - 100 and file.read_bytes() != damaged


@pytest.mark.parametrize("missing", ["numba", "llvmlite"])
def test_without_a_compiler_all_is_interpreted(kept_in: Path, monkeypatch: pytest.MonkeyPatch, missing: str) -> None:
    monkeypatch.setitem(sys.modules, missing, None)
    compiling.load()
    assert not compiling.is_loaded() and _run() == BY_HAND


def test_where_the_compiler_cannot_be_loaded_all_is_interpreted(kept_in: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    def unloadable(*_given: object) -> bytes:
        raise OSError("could not load its shared object")

    monkeypatch.setattr(compiling, "_machine_code", unloadable)
    compiling.load()
    assert not compiling.is_loaded() and _run() == BY_HAND


def test_where_compiled_forms_cannot_be_kept_they_are_made_anew(kept_in: Path) -> None:
    kept_in.write_text("a file where the folder should be")
    compiling.load()
    assert compiling.is_loaded() and _run() == BY_HAND
    assert [path.name for path in kept_in.parent.iterdir()] == ["kept"]


def test_an_array_of_another_kind_is_refused(kept_in: Path) -> None:
    compiling.load()
    with pytest.raises(TypeError, match="int64"):
        _summed(np.array([1, 2]), 2, 1.0, np.empty(2), np.empty(1, np.int64))
    with pytest.raises((TypeError, BufferError, ValueError)):
        _summed(np.arange(8.0)[::2], 4, 1.0, np.empty(4), np.empty(1, np.int64))
