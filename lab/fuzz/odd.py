"""Values nobody means: numbers, dates, texts, things of another kind. Seeded by the generator that is given."""

import json
import random
from typing import Any

NUMBERS = (
    "0",
    "-0",
    "-1",
    "0.001",
    "1e308",
    "-1e308",
    "1e-320",
    "inf",
    "-inf",
    "nan",
    "NaN",
    "Infinity",
    "99999999999999999999999999",
    "2147483648",
    "32768",
    "1,5",
    "1.5.2",
    "0x10",
    "1_000",
    "½",
    "٣",
    "１２",
    "1e999",
    " 7 ",
    "+7",
    "7 s",
    "--7",
)
DATES = (
    "0001-01-01",
    "9999-12-31",
    "10000-01-01",
    "2026-02-30",
    "2026-13-01",
    "26-1-1",
    "01/02/2026",
    "2026-06-15T25:00",
    "2026-06-15T10:00:00+99:00",
    "1900-01-01",
    "2200-01-01",
    "yesterday",
    "2026-06-15T00:00Z",
    "-0001-01-01",
)
TEXTS = (
    "",
    " ",
    "\x00",
    "a\x00b",
    "\ud800",
    "‮abc",
    "🫧" * 30,
    "x" * 100_000,
    "\r\n\r\n",
    "\x1b[31m",
    "\x7f\x85\u2028",
    "<script>alert(1)</script>",
    "'; DROP TABLE x; --",
    "%s%n{0}%(x)s",
    "../../etc/passwd",
    "null",
    "true",
    "[]",
    "{}",
    "C4",
    "H9",
    "C♯♯♯4",
    "C99",
    "B♭-1",
    "é" * 500,
    "\ufeffC4",
    "on",
    "none",
)
THINGS: tuple[Any, ...] = (
    None,
    True,
    False,
    0,
    -1,
    1.5,
    10**30,
    -(10**18),
    1e308,
    float("inf"),
    float("nan"),
    [],
    {},
    [[]],
    [None],
    {"a": 1},
    {"": ""},
    "",
    [0] * 2000,
)
_DEPTH = 20_000


def text(rng: random.Random) -> str:
    """A form's value."""
    return rng.choice(rng.choice((NUMBERS, DATES, TEXTS)))


def thing(rng: random.Random) -> Any:
    """A value of JSON, of any kind."""
    if rng.random() < 0.5:
        return rng.choice(THINGS)
    return text(rng)


def mutated(rng: random.Random, data: Any) -> Any:
    """The same data with one place made odd: a value exchanged, a key left out or added."""
    if isinstance(data, dict) and data and rng.random() < 0.9:
        key = rng.choice(sorted(data, key=str))
        does = rng.random()
        if does < 0.12:
            return {name: value for name, value in data.items() if name != key}
        if does < 0.2:
            return {**data, rng.choice(TEXTS)[:40]: thing(rng)}
        return {**data, key: mutated(rng, data[key])}
    if isinstance(data, list) and data and rng.random() < 0.7:
        place = rng.randrange(len(data))
        return [*data[:place], mutated(rng, data[place]), *data[place + 1 :]]
    return thing(rng)


def body(rng: random.Random, data: Any) -> bytes:
    """Bytes of JSON with one to three odd places; now and then no JSON at all, or far too deep."""
    if rng.random() < 0.12:
        return rng.choice(
            (
                b"",
                b"{",
                b"\xff\xfe",
                b"[" * _DEPTH,
                b'{"a":' * _DEPTH,
                b"nul",
                b'{"a":1,"a":2}',
                b"\x00",
                b'"\\ud800"',
                b"[" * _DEPTH + b"]" * _DEPTH,
                b"1e999",
                b"-Infinity",
                b"{}" * 1000,
            )
        )
    for _ in range(rng.choice((1, 1, 1, 2, 3))):
        data = mutated(rng, data)
    return json.dumps(data, ensure_ascii=True).encode()


def file(rng: random.Random, good: bytes) -> bytes:
    """A file with something wrong in it."""
    does = rng.randrange(6)
    if does == 0:
        return good[: rng.randrange(len(good) + 1)]
    if does == 1:
        return rng.randbytes(rng.randrange(2000))
    if does == 2:
        return b""
    if does == 3:
        return b"\xef\xbb\xbf" + good
    broken = bytearray(good)
    for _ in range(rng.randint(1, 12)):
        broken[rng.randrange(len(broken))] = rng.randrange(256)
    return bytes(broken)
