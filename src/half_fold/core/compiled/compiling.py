"""Procedures that are interpreted until their compiled form has been loaded, which takes a twentieth of a second.

A procedure knows nothing but numbers, arrays of them by their items, named tuples that gather such, and plain
functions; its annotations say which. Numba compiles it once for this processor, and what it made is kept beside the
source: from then on LLVM alone loads it, and the half second that Numba takes to start is spared.
"""

import ctypes
import hashlib
import inspect
import os
import threading
from collections.abc import Callable, Iterable, Iterator
from contextlib import suppress
from pathlib import Path
from types import FunctionType
from typing import Annotated, Any, cast, get_args

import llvmlite
import numpy as np
import platformdirs

Reals = Annotated[Any, np.dtype(np.float64)]
Wholes = Annotated[Any, np.dtype(np.int64)]
Shorts = Annotated[Any, np.dtype(np.uint16)]
Octets = Annotated[Any, np.dtype(np.uint8)]

Procedure = Callable[..., int]
Needs = Callable[..., dict[str, int]]


class HeldArray:
    """An array that is passed again and again, with its address found once."""

    __slots__ = ("address", "array", "dtype")

    def __init__(self, array: np.ndarray[Any, Any]) -> None:
        self.array, self.dtype, self.address = array, array.dtype, _address(array)


def hold_array(*arrays: np.ndarray[Any, Any]) -> tuple[HeldArray, ...]:
    """The arrays, each held."""
    return tuple(map(HeldArray, arrays))


CALLED = ("memset", "memcpy", "memmove", "pow", "exp", "log")  # what loops that clear or copy, and powers, become
NEVER_CALLED = (
    "numba_gil_ensure",
    "numba_gil_release",
    "numba_unpickle",
    "numba_runtime_build_excinfo_struct",
    "numba_do_raise",
    "NRT_Free",
)

_known: dict[str, FunctionType] = {}
_compiled: dict[str, Procedure] = {}
_engines: list[Any] = []  # what owns the machine code
_loading = threading.Lock()
_Buffer = ctypes.c_char * 0
_DIGEST = hashlib.sha256().digest_size


def known(needs: Needs) -> Callable[[Procedure], Procedure]:
    """Make a procedure known to the compiler; gives what runs it, compiled where that has been loaded.

    Arrays are filled in place by either form. An argument is of the kind its annotation says: TypeError else. Compiled
    code reads and writes where it is told: ``needs`` is given the same arguments, those that named tuples gather one by
    one, and says of each array, by its name, how many entries may be asked of it; ValueError where it has fewer.
    """
    return lambda procedure: _known_as(procedure, needs)


def _known_as(procedure: Procedure, needs: Needs) -> Procedure:
    name = f"{procedure.__module__}.{procedure.__name__}"
    _known[name] = cast(FunctionType, procedure)
    names = [each for each, _ in _parameters(_known[name])]

    def run(*given: Any) -> int:
        form = _compiled.get(name)
        if form is None:
            return interpreted(*given)
        flat = list(_one_by_one(given))
        told = dict(zip(names, (each.array if isinstance(each, HeldArray) else each for each in flat), strict=True))
        for array, least in needs(**told).items():
            if len(told[array]) < least:
                raise ValueError(f"“{array}” of {name} has {len(told[array])} entries where {least} may be asked for.")
        return form(*flat)

    def interpreted(*given: Any) -> int:
        return procedure(*map(_as_items, given))

    return run


def _one_by_one(given: Iterable[Any]) -> Iterator[Any]:
    for each in given:
        if isinstance(each, tuple):
            yield from each
        else:
            yield each


def _as_items(each: Any) -> Any:
    """What an interpreted procedure is given: an array by its items, which takes a tenth of the time."""
    if isinstance(each, tuple):
        return type(each)(*map(_as_items, each))
    array = each.array if isinstance(each, HeldArray) else each
    return memoryview(cast(Any, array)) if isinstance(array, np.ndarray) else array


def is_loaded() -> bool:
    """Whether procedures run compiled."""
    return bool(_compiled)


def load() -> None:
    """Load the compiled form of every procedure; safe to call from any thread and more than once."""
    with _loading:
        for name, procedure in list(_known.items()):  # another thread may import more of them meanwhile
            if name not in _compiled:
                try:
                    _compiled[name] = _callable(procedure, _machine_code(name, procedure))
                except (ImportError, OSError):  # no compiler that works here: all is interpreted, to the same results
                    return


def forget() -> None:
    """Go back to the interpreted forms: for tests, which hold both to the same results."""
    _compiled.clear()


def _stated(procedure: FunctionType) -> list[tuple[str, Any]]:
    """Its parameters as it states them, with their annotations."""
    return [(name, kind) for name, kind in inspect.get_annotations(procedure).items() if name != "return"]


def _is_tuple(kind: Any) -> bool:
    return isinstance(kind, type) and issubclass(kind, tuple)


def _parameters(procedure: FunctionType) -> list[tuple[str, Any]]:
    """Name and annotation of each number and array that it is given, those that named tuples gather one by one."""
    found: list[tuple[str, Any]] = []
    for name, kind in _stated(procedure):
        found += inspect.get_annotations(kind).items() if _is_tuple(kind) else [(name, kind)]
    return found


def _kinds(procedure: FunctionType) -> list[Any]:
    """What its arguments are: the dtype of an array, or ``int`` or ``float``."""
    return [get_args(kind)[1] if get_args(kind) else kind for _, kind in _parameters(procedure)]


def _callable(procedure: FunctionType, code: bytes) -> Procedure:
    from llvmlite import binding as llvm

    llvm.initialize_native_target()
    llvm.initialize_native_asmprinter()
    _make_found()
    engine = llvm.create_mcjit_compiler(llvm.parse_assembly(""), _machine())
    engine.add_object_file(llvm.ObjectFileRef.from_data(code))
    engine.finalize_object()
    _engines.append(engine)
    kinds = _kinds(procedure)
    by_value: dict[Any, Any] = {int: ctypes.c_int64, float: ctypes.c_double}
    passed = [by_value.get(kind, ctypes.c_void_p) for kind in kinds]
    function = ctypes.CFUNCTYPE(ctypes.c_int64, *passed)(engine.get_function_address(procedure.__name__))

    def run(*given: Any) -> int:
        return cast(int, function(*map(_passed, given, kinds)))

    return run


def _make_found() -> None:
    """Tell LLVM where all is that compiled code may call.

    It gives up looking at the first name it does not find, and leaves the others at the address 0. The names of Numba's
    own runtime stand where an error would be raised, which procedures never do.
    """
    from llvmlite import binding as llvm

    library = ctypes.CDLL(None)
    for names, function in ((CALLED, ""), (NEVER_CALLED, "abort")):
        for name in names:
            if llvm.address_of_symbol(name) is None:
                llvm.add_symbol(name, ctypes.cast(getattr(library, function or name), ctypes.c_void_p).value)


def _passed(each: Any, kind: Any) -> Any:
    if kind is int or kind is float:
        return each
    if each.dtype is not kind and each.dtype != kind:
        raise TypeError(f"An array of {each.dtype} where {kind} is asked for.")
    return each.address if type(each) is HeldArray else _address(each)


def _address(array: Any) -> int:
    return ctypes.addressof(_Buffer.from_buffer(array))


def _machine() -> Any:
    from llvmlite import binding as llvm

    features = llvm.get_host_cpu_features().flatten()
    target = llvm.Target.from_default_triple()
    return target.create_target_machine(cpu=llvm.get_host_cpu_name(), features=features, opt=3, jit=True)


def _machine_code(name: str, procedure: FunctionType) -> bytes:
    """Its object code for this processor: as it was kept, or made now and kept where there is a place for it."""
    from llvmlite import binding as llvm

    source = Path(inspect.getfile(procedure))
    features = llvm.get_host_cpu_features().flatten()
    made_of = (
        *(Path(file).read_bytes() for file in sorted({inspect.getfile(each) for each in _all_called(procedure)})),
        repr(_parameters(procedure)).encode(),
        procedure.__code__.co_code,  # as it was read in: the file may be another by now, with another run of arguments
        features.encode(),
        llvmlite.__version__.encode(),
        repr(_constants(procedure)).encode(),
    )
    file = f"{name}-{hashlib.sha256(b'|'.join(made_of)).hexdigest()[:16]}.o"
    files = [place / file for place in _places(source)]
    for each in files:
        if each.is_file():
            digest, code = each.read_bytes()[:_DIGEST], each.read_bytes()[_DIGEST:]
            if digest == hashlib.sha256(code).digest():
                return code
    code = _made(procedure)
    _keep(hashlib.sha256(code).digest() + code, files)
    return code


def _all_called(function: FunctionType) -> list[FunctionType]:
    """A function and all plain functions that it, or what it calls, names; each once."""
    found = [function]
    for each in found:
        named = (each.__globals__.get(name) for name in each.__code__.co_names)
        found += [called for called in named if isinstance(called, FunctionType) and called not in found]
    return found


def _constants(procedure: FunctionType) -> list[tuple[str, float]]:
    """The figures that it, and what it calls, name in their modules: they go into its code."""
    return [
        (name, each.__globals__[name])
        for each in _all_called(procedure)
        for name in each.__code__.co_names
        if isinstance(each.__globals__.get(name), (int, float))
    ]


def _places(source: Path) -> tuple[Path, ...]:
    """Where the object code of what is in ``source`` may be kept."""
    return source.parent / "__pycache__", platformdirs.user_cache_path("half-fold")


def _made(procedure: FunctionType) -> bytes:
    from llvmlite import binding as llvm
    from numba import cfunc, types
    from numba.np.numpy_support import from_dtype

    scalars = {int: types.int64, float: types.float64}
    told = [scalars[kind] if kind in scalars else types.CPointer(from_dtype(kind)) for kind in _kinds(procedure)]
    made = cfunc(types.int64(*told), error_model="numpy")(_entry(procedure))
    module = llvm.parse_assembly(made.inspect_llvm())
    module.get_function(made.native_name).name = procedure.__name__
    return bytes(_machine().emit_object(module))


def _entry(procedure: FunctionType) -> FunctionType:
    """What is called with every number and array by itself, and gathers them as the procedure wants them."""
    plain, stated = _with_compiled(procedure, {}), _stated(procedure)
    if not any(_is_tuple(kind) for _, kind in stated):
        return plain
    from numba import njit

    scope, given, at = dict[str, Any](), list[str](), 0
    for name, kind in stated:
        count = len(inspect.get_annotations(kind)) if _is_tuple(kind) else 1
        own = ", ".join(f"a{at + i}" for i in range(count))
        scope[f"T_{name}"] = kind
        given.append(f"T_{name}({own})" if _is_tuple(kind) else own)
        at += count
    scope["procedure"] = njit(error_model="numpy")(plain)
    names = ", ".join(f"a{i}" for i in range(at))
    call = f"procedure({', '.join(given)})"
    exec(f"def entry({names}):\n    return {call}\n", scope)  # nothing but names of our own is in it
    return cast(FunctionType, scope["entry"])


def _with_compiled(function: FunctionType, known_as: dict[FunctionType, Any]) -> FunctionType:
    """A function that calls the compiled form of every plain function it names, as those do in turn."""
    from numba import njit

    scope = dict(function.__globals__)
    for name in function.__code__.co_names:
        called = scope.get(name)
        if isinstance(called, FunctionType):
            if called not in known_as:
                known_as[called] = njit(error_model="numpy")(_with_compiled(called, known_as))
            scope[name] = known_as[called]
    return FunctionType(function.__code__, scope, function.__name__, function.__defaults__)


def _keep(code: bytes, files: Iterable[Path]) -> None:
    """Into the first of the files that can be written, whole; where none can, it is made anew each time."""
    for file in files:
        temporary = file.with_suffix(f".{os.getpid()}")
        try:
            file.parent.mkdir(parents=True, exist_ok=True)
            temporary.write_bytes(code)
            temporary.replace(file)
            return
        except OSError:
            with suppress(OSError):
                temporary.unlink()
