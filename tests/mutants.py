"""Files changed at random: JSON by its structure, others by their bytes."""

from __future__ import annotations

import json
import random
from typing import Any

_NASTY: tuple[Any, ...] = (
    None, True, False, 0, -1, 1, 2, 1e-300, -1e300, 1e300, 10**30, -(10**30), 2**63, 0.1, "", " ", "a" * 5000,
    "\ud800", "\x00", "😀", "नमस्ते", "../../x", "/dev/zero", [], {}, [[]], {"kind": "text"}, "1e999",
)  # fmt: skip


def mutated_json(content: bytes, drawn: random.Random) -> bytes:
    """Up to four changes of a JSON file's structure or values."""
    data = json.loads(content)
    for _ in range(drawn.choice([1, 1, 1, 2, 4])):
        _change(data, drawn)
    text = json.dumps(data)
    if drawn.random() < 0.05:
        text = text.replace("1.0", drawn.choice(["1e999", "NaN", "-Infinity", "1e400"]), 1)
    if drawn.random() < 0.03:
        return mutated_bytes(text.encode("utf-8", "surrogatepass"), drawn)
    return text.encode("utf-8", "backslashreplace")


def _places(data: Any) -> list[tuple[Any, Any]]:
    """Every (container, key) in the data."""
    found, waiting = [], [data]
    while waiting:
        here = waiting.pop()
        items = here.items() if isinstance(here, dict) else enumerate(here)
        for key, value in items:
            found.append((here, key))
            if isinstance(value, dict | list):
                waiting.append(value)
    return found


def _change(data: Any, drawn: random.Random) -> None:
    places = _places(data)
    if not places:
        return
    holder, key = drawn.choice(places)
    value = holder[key]
    deed = drawn.randrange(7)
    if deed == 0:
        holder[key] = drawn.choice(_NASTY)
    elif deed == 1:
        del holder[key]
    elif deed == 2 and isinstance(value, int | float):
        holder[key] = value * drawn.choice([-1, 0, 1e3, 1e6, 1e9, 0.001])
    elif deed == 3:
        other, name = drawn.choice(places)
        holder[key] = json.loads(json.dumps(other[name])) if not _holds(other[name], holder) else None
    elif deed == 4 and isinstance(value, list) and value:
        value.extend(json.loads(json.dumps(drawn.choice(value))) for _ in range(drawn.choice([1, 3, 60])))
    elif deed == 5 and isinstance(value, str):
        holder[key] = value[::-1] if drawn.random() < 0.5 else value * drawn.choice([2, 40])
    elif isinstance(holder, dict):
        holder[drawn.choice(["later", "extra", "(extra)", "id", "kind", str(key)])] = drawn.choice(_NASTY)
    else:
        drawn.shuffle(holder)


def _holds(value: Any, wanted: Any) -> bool:
    if value is wanted:
        return True
    items = value.values() if isinstance(value, dict) else value if isinstance(value, list) else ()
    return any(_holds(item, wanted) for item in items)


def mutated_bytes(content: bytes, drawn: random.Random) -> bytes:
    """Bits turned, stretches set, cut, doubled or taken from elsewhere in the file."""
    made = bytearray(content)
    for _ in range(drawn.choice([1, 2, 8, 40])):
        if not made:
            break
        at, length = drawn.randrange(len(made)), drawn.choice([1, 2, 4, 16, 400])
        deed = drawn.randrange(6)
        if deed == 0:
            made[at] ^= 1 << drawn.randrange(8)
        elif deed == 1:
            made[at : at + length] = bytes([drawn.choice([0, 0xFF, 0x7F, 0x80])]) * len(
                made[at : at + length]
            )
        elif deed == 2:
            made[at : at + length] = drawn.randbytes(len(made[at : at + length]))
        elif deed == 3:
            del made[at : at + length]
        elif deed == 4:
            source = drawn.randrange(len(made))
            made[at:at] = made[source : source + length]
        elif drawn.random() < 0.1:
            del made[at:]
    return bytes(made)
