"""Reads zip archives from untrusted sources, with a size limit for every member."""

import zipfile
import zlib

DAMAGED = (
    *(zipfile.BadZipFile, zlib.error, EOFError, OSError),
    *(NotImplementedError, RuntimeError),  # a way of packing nobody has here; a password
)
"""What reading a zip file raises where it is none, damaged, or locked."""


class TooLarge(ValueError):
    """An archive member that would unpack to more than the limit."""


def unfolded(data: bytes, *, most: int) -> bytes:
    """Decompress zlib data up to a limit, whatever size the data claims. Raises TooLarge, zlib.error."""
    unpacking = zlib.decompressobj()
    found = unpacking.decompress(data, most + 1)
    if len(found) > most:
        raise TooLarge("packed data")
    if not unpacking.eof:
        raise zlib.error("packed data is cut off")
    return found


def member_of(archive: zipfile.ZipFile, name: str, *, most: int) -> bytes:
    """Read one file of an archive up to a limit, whatever size its directory claims. Raises KeyError if it is missing,
    TooLarge, and the errors in DAMAGED."""
    with archive.open(name) as member:
        data = member.read(most + 1)
    if len(data) > most:
        raise TooLarge(name)
    return data
