"""Every colour of the interface, by what it is for. No widget names a colour of its own."""

from __future__ import annotations

from dataclasses import dataclass

from PySide6.QtGui import QColor


@dataclass(frozen=True, slots=True)
class Roles:
    """Hexadecimal sRGB colours by role."""

    ground: str
    panel: str
    raised: str
    lifted: str
    line: str
    text: str
    muted: str
    accent: str
    on_accent: str
    entrance: str
    loop: str
    exit: str
    problem: str
    footage: str
    still: str
    sound: str
    shape: str
    area: str
    words: str
    surround: str
    frame_edge: str
    field_edit: str


DARK = Roles(
    ground="#1b1a19",
    panel="#262422",
    raised="#322f2c",
    lifted="#3a3632",
    line="#3d3935",
    text="#eee7dc",
    muted="#b0a799",
    accent="#f2b13c",
    on_accent="#231c0e",
    entrance="#74a7cf",
    loop="#a9b566",
    exit="#c98bb4",
    problem="#e8907a",
    footage="#41525c",
    still="#5c5348",
    sound="#57523b",
    shape="#4b4a58",
    area="#4a4f45",
    words="#3b3833",
    surround="#2b2b2b",
    frame_edge="#565656",
    field_edit="#161514",
)

# Which roles are written on which: the contrast of each pair is tested.
TEXT_ON = {
    "text": (
        "ground",
        "panel",
        "raised",
        "lifted",
        "footage",
        "still",
        "sound",
        "shape",
        "area",
        "words",
        "field_edit",
    ),
    "muted": ("ground", "panel", "raised"),
    "accent": ("ground", "panel", "raised"),
    "on_accent": ("accent",),
    "problem": ("ground", "panel", "raised"),
    "entrance": ("panel", "raised"),
    "loop": ("panel", "raised"),
    "exit": ("panel", "raised"),
}


def colour(role: str, alpha: float = 1.0) -> QColor:
    """A role's colour, with an opacity as a share of 1."""
    found = QColor(getattr(DARK, role))
    found.setAlphaF(alpha)
    return found


def contrast(one: str, other: str) -> float:
    """The contrast ratio of two hexadecimal colours (WCAG 2.2, relative luminance)."""
    high, low = sorted((_luminance(one), _luminance(other)), reverse=True)
    return (high + 0.05) / (low + 0.05)


def _luminance(text: str) -> float:
    shares = [int(text[at : at + 2], 16) / 255 for at in (1, 3, 5)]
    linear = [share / 12.92 if share <= 0.04045 else ((share + 0.055) / 1.055) ** 2.4 for share in shares]
    return 0.2126 * linear[0] + 0.7152 * linear[1] + 0.0722 * linear[2]
