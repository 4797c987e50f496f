"""What `tests/web/test_records.py` and others make and look at."""

import io
import zipfile

from tests.conftest import NOW
from web.records.pack import write_record
from web.records.unpack import read_record


def packed(client):
    out = io.BytesIO()
    write_record(client, out, now=NOW)
    return out.getvalue()


def members(data):
    with zipfile.ZipFile(io.BytesIO(data)) as archive:
        return {name: archive.read(name) for name in archive.namelist()}


def read(data):
    return read_record(io.BytesIO(data))
