"""Files and values spoilt by chance: a strategy that changes a good file in a few places, as a bad cable, a bad program or a bad will would."""

from __future__ import annotations

import random
import re
from pathlib import Path

__all__ = ["CORPUS", "spoilt"]

CORPUS = Path(__file__).parent / "corpus"
NUMBER = re.compile(rb"-?\d+(?:\.\d+)?(?:[eE][+-]?\d+)?")
WORD = re.compile(rb"[A-Za-z_#]{3,}")
ODD = [
    b"0",
    b"-1",
    b"1e308",
    b"-1e308",
    b"1e-320",
    b"nan",
    b"inf",
    b"9" * 400,
    b"99999999999999999999",
    b"0.0000001",
    b"",
    b"\xb2",
    b"1e12",
    b"-0",
    b"2147483648",
]
BYTES = [
    b"\x00",
    b"\xff\xfe",
    b"\r",
    b"\n\n",
    b"(" * 500,
    b")" * 500,
    b"<" * 50,
    b"&#x0;",
    b"&a;",
    b"\xf0\x9f\x94\xa8",
    b"{" * 200,
    b"\t",
    b'"',
    b"'",
    b"#1=",
    b"0\nSECTION\n",
]


def spoilt(data: bytes, seed: int) -> bytes:
    """``data`` changed in one to six places; the same seed gives the same."""
    chance = random.Random(seed)
    for _ in range(chance.randint(1, 6)):
        data = chance.choice(WAYS)(data, chance)
    return data[:400_000]


def _place(data: bytes, chance: random.Random) -> int:
    return chance.randrange(len(data) + 1)


def _number(data: bytes, chance: random.Random) -> bytes:
    found = list(NUMBER.finditer(data))
    if not found:
        return data
    m = chance.choice(found)
    return data[: m.start()] + chance.choice(ODD) + data[m.end() :]


def _word(data: bytes, chance: random.Random) -> bytes:
    """A word in place of another one of the same file."""
    found = list(WORD.finditer(data))
    if len(found) < 2:
        return data
    m, other = chance.sample(found, 2)
    return data[: m.start()] + other.group() + data[m.end() :]


def _insert(data: bytes, chance: random.Random) -> bytes:
    at = _place(data, chance)
    return data[:at] + chance.choice(BYTES) + data[at:]


def _cut(data: bytes, chance: random.Random) -> bytes:
    a, b = sorted((_place(data, chance), _place(data, chance)))
    return data[:a] + data[min(b, a + chance.choice((1, 20, 2000))) :]


def _again(data: bytes, chance: random.Random) -> bytes:
    """A piece once more, or many times."""
    a = _place(data, chance)
    piece = data[a : a + chance.choice((1, 30, 400))]
    return data[:a] + piece * chance.choice((2, 2, 40)) + data[a:]


def _lines(data: bytes, chance: random.Random) -> bytes:
    """Two lines that change places."""
    lines = data.split(b"\n")
    if len(lines) < 3:
        return data
    i, j = chance.sample(range(len(lines)), 2)
    lines[i], lines[j] = lines[j], lines[i]
    return b"\n".join(lines)


def _bit(data: bytes, chance: random.Random) -> bytes:
    if not data:
        return data
    at = chance.randrange(len(data))
    return data[:at] + bytes([data[at] ^ (1 << chance.randrange(8))]) + data[at + 1 :]


def _end(data: bytes, chance: random.Random) -> bytes:
    return data[: _place(data, chance)]


WAYS = [_number, _number, _number, _word, _word, _insert, _cut, _again, _lines, _bit, _end]
