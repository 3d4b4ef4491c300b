"""Compiled procedures: kept, loaded again, and interpreted to the same results where there is no compiler."""

import struct
import sys
from collections.abc import Iterator
from pathlib import Path
from typing import NamedTuple

import numpy as np
import pytest

from half_fold.core.compiled import compiling
from half_fold.core.compiled.compiling import Reals, Wholes, known


def _needs(count: int, **_: object) -> dict[str, int]:
    return {"values": count, "sums": count, "odd": 1}


@known(_needs)
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


def _needs_both(count: int, **_: object) -> dict[str, int]:
    return {"values": count, "copy": count, "rest": count}


@known(_needs_both)
def _cleared_and_copied(values: Wholes, copy: Wholes, rest: Reals, count: int) -> int:
    """What the optimiser turns into calls of the library: a loop that copies, one that clears, and a power."""
    for i in range(count):
        copy[i] = values[i]
    for i in range(count):
        values[i] = 0
    for i in range(count):
        rest[i] = _powered(copy[i], count)
    return _twice(count)


def _powered(value: float, count: int) -> float:
    return float(_twice(value) ** (1.0 + count / 1000))


def _twice(value: int) -> int:
    return 2 * value


class _Leaves(NamedTuple):
    """Gathered: what a procedure is given in one piece."""

    wide: Reals
    high: Reals
    count: int


def _needs_leaves(wide: object, high: object, count: int, areas: object, odd: object) -> dict[str, int]:
    return {"wide": count, "high": count, "areas": count, "odd": 1}


@known(_needs_leaves)
def _areas(leaves: _Leaves, areas: Reals, odd: Wholes) -> int:
    wide, high, count = leaves
    odd[0] = 0
    for i in range(count):
        areas[i] = _area(leaves, i)
        odd[0] += int(wide[i] + high[i]) % 2
    return count


class _Out(NamedTuple):
    """One alone may be gathered too."""

    areas: Reals


@known(lambda factor, areas: {"areas": 1})
def _areas_of_one(factor: float, out: _Out) -> int:
    out.areas[0] = 2 * factor
    return 1


def _area(leaves: _Leaves, at: int) -> float:
    return float(leaves.wide[at] * leaves.high[at])


@pytest.fixture
def kept_in(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Iterator[Path]:
    """A place of its own for what is compiled, with only the procedure above known."""
    monkeypatch.setattr(compiling, "_places", lambda _source: (tmp_path / "kept",))
    monkeypatch.setattr(compiling, "_known", {n: p for n, p in compiling._known.items() if "_summed" in n})
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


def test_loops_that_clear_and_copy_and_functions_of_functions_run_once_loaded_from_what_was_kept(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(compiling, "_places", lambda _source: (tmp_path / "kept",))
    ours = {name: made for name, made in compiling._known.items() if "_cleared" in name}
    monkeypatch.setattr(compiling, "_known", ours)
    monkeypatch.setattr(compiling, "_compiled", {})
    made = []
    for _ in range(3):  # interpreted, then compiled, then loaded
        values, copy, rest = np.arange(100), np.empty(100, np.int64), np.empty(100)
        made.append((_cleared_and_copied(values, copy, rest, 100), values.tolist(), copy.tolist(), rest.tolist()))
        compiling.forget()
        compiling.load()
    count, values_, copy_, rest_ = made[0]
    assert (count, values_, copy_) == (200, [0] * 100, list(range(100)))
    assert rest_ == pytest.approx([(2 * i) ** 1.1 for i in range(100)])
    assert all(each[:3] == made[0][:3] and each[3] == pytest.approx(rest_) for each in made)


def test_what_is_gathered_is_given_in_one_piece_to_either_form(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(compiling, "_places", lambda _source: (tmp_path / "kept",))
    ours = {name: made for name, made in compiling._known.items() if "_areas" in name}
    monkeypatch.setattr(compiling, "_known", ours)
    monkeypatch.setattr(compiling, "_compiled", {})
    wide, high = np.array([2.0, 3.0, 5.0]), compiling.HeldArray(np.array([1.0, 4.0, 6.0]))
    for _ in range(3):  # interpreted, then compiled, then loaded
        areas, odd = np.empty(3), np.empty(1, np.int64)
        assert _areas(_Leaves(wide, high, 3), areas, odd) == 3
        assert (areas.tolist(), odd.tolist()) == ([2.0, 12.0, 30.0], [3])
        assert _areas_of_one(3.5, _Out(areas)) == 1 and areas[0] == 7.0
        compiling.forget()
        compiling.load()
    with pytest.raises(ValueError, match="“high” of"):
        _areas(_Leaves(np.ones(4), high, 4), np.empty(4), np.empty(1, np.int64))
    with pytest.raises(TypeError, match="int64"):
        _areas(_Leaves(np.ones(3, np.int64), high, 3), np.empty(3), np.empty(1, np.int64))
    (name, procedure), *_ = ours.items()
    kept = set((tmp_path / "kept").iterdir())
    monkeypatch.setattr(_Leaves, "__annotations__", {"high": Reals, "wide": Reals, "count": int})
    compiling._machine_code(name, procedure)
    assert set((tmp_path / "kept").iterdir()) - kept, "gathered in another order it is another code"


def _called_elsewhere(code: bytes) -> set[str]:
    """The names that object code (64-bit ELF) has to be told the addresses of."""
    start, count = struct.unpack_from("<Q", code, 0x28)[0], struct.unpack_from("<H", code, 0x3C)[0]
    sections = [struct.unpack_from("<IIQQQQIIQQ", code, start + 64 * n) for n in range(count)]
    found = set()
    for _, kind, _, _, at, size, link, *_ in sections:
        if kind == 2:  # symbols
            words = sections[link][4]
            for place in range(at, at + size, 24):
                name, _, _, section = struct.unpack_from("<IBBH", code, place)
                text = code[words + name : code.index(b"\0", words + name)].decode()
                found |= {text} if text and section == 0 else set()
    return found


def test_all_that_compiled_code_calls_is_found() -> None:
    """What is not is called at the address 0, once it is loaded without the compiler: nothing says so before."""
    from llvmlite import binding as llvm

    from half_fold.core.arrange import seeking  # noqa: F401 (makes its procedures known)
    from half_fold.core.press import make  # noqa: F401

    compiling.load()
    for name, procedure in compiling._known.items():
        for called in _called_elsewhere(compiling._machine_code(name, procedure)):
            assert llvm.address_of_symbol(called), f"{name} calls {called}"


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


@pytest.mark.parametrize("short", ["values", "sums", "odd"])
def test_an_array_that_is_too_short_is_refused_where_it_is_passed(kept_in: Path, short: str) -> None:
    compiling.load()
    arrays = {"values": np.ones(4), "sums": np.empty(4), "odd": np.empty(1, np.int64)}
    arrays[short] = arrays[short][:-1].copy()
    with pytest.raises(ValueError, match=f"“{short}”"):
        _summed(arrays["values"], 4, 0.5, arrays["sums"], arrays["odd"])


def test_every_procedure_says_how_long_each_of_its_arrays_has_to_be() -> None:
    import inspect

    from half_fold.core.press import make  # noqa: F401 (makes its procedures known)

    compiling.load()
    for name, procedure in compiling._known.items():
        if name.startswith("tests."):
            continue
        arrays = [n for n, kind in compiling._parameters(procedure) if "Annotated" in str(kind)]
        module = sys.modules[procedure.__module__]
        told = inspect.getsource(module._needs)
        octets_of_spans = {"actual_at", "actual"}  # as many as the spans that are asked for, seen to beside the call
        assert [a for a in arrays if f'"{a}"' not in told and a not in octets_of_spans | {"end_glyph"}] == [], name


def test_more_procedures_may_become_known_while_others_are_loaded(monkeypatch: pytest.MonkeyPatch) -> None:
    """Another thread that imports a module at that moment must not break the loading off."""

    def grow(name: str, _procedure: object) -> bytes:
        known(_needs)(_nothing)
        raise OSError(name)

    monkeypatch.setattr(compiling, "_compiled", {})
    monkeypatch.setattr(compiling, "_machine_code", grow)
    monkeypatch.setattr(compiling, "_known", dict(compiling._known))
    compiling.load()


def _nothing(count: int) -> int:
    return count
