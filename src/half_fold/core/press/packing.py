"""Packing content streams beside the work: zlib needs no interpreter, so a page is packed while the next is written."""

import zlib
from collections.abc import Iterator
from queue import SimpleQueue
from threading import Thread


class Packer:
    """Packs streams in the order given, on a thread of its own that ends once all are packed or nobody waits."""

    def __init__(self) -> None:
        self._given: SimpleQueue[bytes | None] = SimpleQueue()
        self._packed: list[bytes] = []
        self._thread = Thread(target=_pack, args=(self._given, self._packed), daemon=True)
        self._thread.start()

    def pack(self, content: bytes) -> None:
        """Pack one more."""
        self._given.put(content)

    def packed(self) -> Iterator[bytes]:
        """All of them packed, once they are."""
        self._given.put(None)
        self._thread.join()
        return iter(self._packed)

    def __del__(self) -> None:
        self._given.put(None)


def _pack(given: SimpleQueue[bytes | None], packed: list[bytes]) -> None:
    while (content := given.get()) is not None:
        packed.append(zlib.compress(content))
