"""Words in many scripts, for the contact sheet and the tests."""

from __future__ import annotations

from rovix.edit.look import scaled_look
from rovix.edit.tree import replace
from rovix.engine.kept_shelf import READY
from rovix.formats.look_file import read_look
from rovix.model import Look, Project, Sequence, Text, TextClip, Track, Transform
from rovix.text import lay_out

SAMPLES: tuple[tuple[str, str], ...] = (
    ("Latin", "Larkmoor Kite Day"),
    ("Latin, ligatures", "offshore affiliate flight"),
    ("Latin, diacritics", "Žluťoučký drak ďábelsky"),
    ("Latin, Vietnamese", "Diều bay trên đồi gió"),
    ("Latin, marks typed apart", "e\u0301 n\u0303 o\u0308\u0304 Å s\u0323\u0307"),
    ("Greek", "Χαρταετοί στον άνεμο"),
    ("Cyrillic", "Воздушные змеи над холмом"),
    ("Arabic", "طائرات ورقية فوق التل"),
    ("Arabic, vowels", "الرِّيحُ قَوِيَّةٌ"),
    ("Persian", "بادبادک‌ها بر فراز تپه"),
    ("Hebrew", "עפיפונים מעל הגבעה"),
    ("Hebrew and figures", "רוח: 14 kn (ממערב)"),
    ("Devanagari", "पतंग उत्सव की शुभकामनाएँ"),
    ("Bengali", "ঘুড়ি উৎসবের শুভেচ্ছা"),
    ("Tamil", "பட்டத் திருவிழா"),
    ("Thai", "ว่าวเหนือเนินเขา"),
    ("Georgian", "ფრანები გორაკზე"),
    ("Armenian", "Օդապարուկներ բլրի վրա"),
    ("Hangul", "언덕 위의 연날리기"),
    ("Kana and Han, emoji", "丘の上の凧あげ 🪁👩‍👧🇯🇵"),
)
_COLUMNS, _CELL = 4, (420, 190)
_MOST = 54.0
_LOOKS = ("quiet", "low-sun", "harbour-sign", "caption-box", "each-its-own")


def contact_sheet() -> Project:
    """A project of one frame that shows every sample in its cell, as large as fits, with its name."""
    rows = -(-len(SAMPLES) // _COLUMNS)
    clips = [clip for number in range(len(SAMPLES)) for clip in _cell(number, rows)]
    tracks = tuple(Track(id=f"track-{n}", clips=(clip,)) for n, clip in enumerate(clips))
    size = _COLUMNS * _CELL[0], rows * _CELL[1]
    sequence = Sequence(id="scripts", name="Scripts", size=size, background="#2c3c44", tracks=tracks)
    return Project(id="contact-sheet", name="Scripts", sequences=(sequence,))


def _cell(number: int, rows: int) -> tuple[TextClip, TextClip]:
    name, text = SAMPLES[number]
    x = (number % _COLUMNS - (_COLUMNS - 1) / 2) * _CELL[0]
    y = (number // _COLUMNS - (rows - 1) / 2) * _CELL[1]
    size = _fitting(text)
    words, place = Text(content=text, size=size), Transform(x=x, y=y - 12)
    sample = TextClip(id=f"sample-{number}", text=words, look=_look(number, size), transform=place)
    label = TextClip(
        id=f"label-{number}", text=Text(content=name, family="Inter", weight=500, size=17.0),
        look=_plain(number), transform=Transform(x=x, y=y + _CELL[1] / 2 - 24),
    )  # fmt: skip
    return sample, label


def _fitting(text: str) -> float:
    """px of the em at which a text fits into its cell with its look."""
    left, top, right, bottom = lay_out(Text(content=text, size=100.0)).ink_bounds() or (0.0, 0.0, 1.0, 1.0)
    share = min(0.84 * _CELL[0] / (right - left), 0.42 * _CELL[1] / (bottom - top))
    return min(_MOST, 100.0 * share)


def _look(number: int, size: float) -> Look:
    saved = read_look(READY / f"{_LOOKS[number % len(_LOOKS)]}.json")
    return _named(scaled_look(saved.look, size / saved.size), f"look-{number}")


def _plain(number: int) -> Look:
    return _named(Look(), f"plain-{number}")


def _named(look: Look, name: str) -> Look:
    return replace(look, parts=tuple(replace(part, id=f"{name}-{n}") for n, part in enumerate(look.parts)))
