"""What checks find, and the kinds there are."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Kind:
    """What a check is called, what can be done about it, and the ids of fixes for it, the gentlest first."""

    title: str
    way_on: str
    fixes: tuple[str, ...] = ()
    warns: bool = False
    """Whether it is a hint only, that may be right as it is."""


KINDS: dict[str, Kind] = {
    "reading": Kind("Gone before it is read", "Let it stay longer, or say less.", ("longer", "quicker")),
    "contrast": Kind("Hard to see on what is behind it", "Give it an edge, a box, or another colour.",
                     ("outline", "box")),
    "busy": Kind("Thin letters on a busy ground", "Bolder letters, or a box behind them.",
                 ("bolder", "box"), warns=True),
    "safe": Kind("Outside the safe area", "Move it in, or make it smaller.", ("inside",)),
    "keep-free": Kind("In an area kept free", "Move it out of there."),
    "cut": Kind("Cut off by the frame", "Move it in, or make it smaller.", ("inside",)),
    "flash": Kind("Flashes", "Slow it down, dim it, or make it smaller: three a second are the limit."),
    "red-flash": Kind("Flashes in red", "Slow it down, or take the red out."),
    "jump": Kind("Jumps from frame to frame", "Motion blur, or a longer way in time.",
                 ("blur", "slower"), warns=True),
    "still": Kind("Seems to stand still as it turns", "Turn slower, or faster by a half.", warns=True),
    "jolt": Kind("Its speed breaks at a key", "Smooth the ways at that key.", ("smooth",), warns=True),
    "loop": Kind("The loop does not join", "Let its last inner key be as its first.", ("join",)),
    "overlap": Kind("Words over words", "Move one of them, or let it come later."),
    "unshown": Kind("Never fully there", "Shorten its entrance or exit, or let it stay longer.",
                    ("longer", "quicker")),
    "face": Kind("A typeface is missing", "Install it, or choose another one."),
    "letters": Kind("The typeface lacks letters", "Choose a typeface that has them."),
    "media": Kind("A file is missing", "Find it again, or bring in another one."),
    "clipping": Kind("Sound is cut off", "Turn it down."),
}  # fmt: skip
"""Every kind of check, in the order in which they are listed."""


@dataclass(frozen=True, slots=True)
class Finding:
    """Something found: of which `kind`, in which `layer` ('' for the whole), called `name`, at which `frame`
    of the sequence it is worst; how much it is, and against what, in words; and a number of the same, with
    its limit, in the kind's own unit."""

    kind: str
    layer: str
    name: str
    frame: int
    said: str
    amount: float
    limit: float

    @property
    def key(self) -> tuple[str, str]:
        """What it is accepted by."""
        return self.kind, self.layer
