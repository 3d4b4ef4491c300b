"""Whether the machine has room for what is to come, asked before a library would end the program for want of it."""

import mmap


def require_room(octets: int) -> None:
    """MemoryError unless so many octets can be had at once."""
    try:
        mmap.mmap(-1, octets).close()
    except OSError as error:
        raise MemoryError(f"no room for {octets} octets") from error
