"""Zip archives from anybody: what may go wrong while one is read, and no member larger than it may be."""

import zipfile
import zlib

DAMAGED = (
    *(zipfile.BadZipFile, zlib.error, EOFError, OSError),
    *(NotImplementedError, RuntimeError),  # a way of packing nobody has here; a password
)
"""What reading a zip file raises where it is none, damaged, or locked."""


class TooLarge(ValueError):
    """A member that unfolds to more than it may."""


def unfolded(data: bytes, *, most: int) -> bytes:
    """What zlib packed, at most so many bytes whatever the data says; TooLarge, zlib.error."""
    unpacking = zlib.decompressobj()
    found = unpacking.decompress(data, most + 1)
    if len(found) > most:
        raise TooLarge("packed data")
    if not unpacking.eof:
        raise zlib.error("packed data is cut off")
    return found


def member_of(archive: zipfile.ZipFile, name: str, *, most: int) -> bytes:
    """A file of an archive, at most so many bytes whatever its directory says; KeyError where it is not there,
    TooLarge, and what is in DAMAGED."""
    with archive.open(name) as member:
        data = member.read(most + 1)
    if len(data) > most:
        raise TooLarge(name)
    return data
