"""Which scripts a text is written in, and which of them a face can write."""

from __future__ import annotations

from functools import lru_cache

from rovix.text.face import Face
from rovix.text.runs import script_of

# ISO 15924 codes with a few letters that no text in the script goes without.
_LETTERS = {
    "Latn": "AaEeNn", "Grek": "ΑαΕεΝν", "Cyrl": "АаЕеНн", "Arab": "ابتم", "Hebr": "אבהם", "Deva": "कनमा",
    "Beng": "কনমা", "Taml": "கனமா", "Thai": "กนมา", "Geor": "აბნმ", "Armn": "ԱաՆն", "Hang": "가나다",
    "Hira": "あなの", "Kana": "アナノ", "Hani": "一日人風", "Ethi": "ሀነመ", "Khmr": "កនម", "Sinh": "කනම",
    "Telu": "కనమ", "Knda": "ಕನಮ", "Mlym": "കനമ", "Gujr": "કનમ", "Guru": "ਕਨਮ", "Mymr": "ကနမ", "Laoo": "ກນມ",
}  # fmt: skip
_SAID = {"Hani": "Han", "Hang": "Hangul", "Beng": "Bengali"}


def known_scripts() -> dict[str, str]:
    """Their codes and English names, by name."""
    from fontTools import unicodedata

    named = {code: _SAID.get(code, unicodedata.script_name(code)) for code in _LETTERS}
    return dict(sorted(named.items(), key=lambda entry: entry[1]))


def scripts_of(text: str) -> list[str]:
    """The known scripts of a text, in the order of their first letters."""
    return list(dict.fromkeys(code for code in map(script_of, text) if code in _LETTERS))


@lru_cache(maxsize=8192)
def writes(face: Face, script: str) -> bool:
    """Whether a face has the letters that a known script does not go without."""
    return face.covers(_LETTERS[script])
