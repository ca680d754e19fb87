"""The controls of a crawl or roll: which way, at which speed, what it does at its ends."""

from __future__ import annotations

from typing import Any

from PySide6.QtCore import QSize
from PySide6.QtWidgets import QLabel, QPushButton

from rovix.desktop.sheet.drop_down import DropDown
from rovix.desktop.sheet.mixed import ABSENT
from rovix.desktop.sheet.number_field import NumberField
from rovix.desktop.sheet.page import Page, plain
from rovix.desktop.sheet.parts import Rows, Segments, Tick
from rovix.edit.crossing import keep_speed, lengthen_for_crossing, remove_crossing, set_crossing
from rovix.model import Crossing, PictureClip
from rovix.model.crossing import Counted
from rovix.motion import Scene
from rovix.motion.crossing import counted_speed

WAYS = {
    "none": "Stands", "left": "Crawls left", "right": "Crawls right", "up": "Rolls up", "down": "Rolls down",
}  # fmt: skip
_COUNTED: dict[Counted, str] = {"second": "px/s", "frame": "px/f", "words": "words/min"}
_BY = {"length": "Clip's length", "speed": "Speed"}


class CrossingControls(Rows):
    """Rows for all selected layers; `said` is what is told of the leading one."""

    def __init__(self, page: Page) -> None:
        # Long: the controls in the order in which they stand, a statement or two each.
        super().__init__()
        self._page = page
        self.way = DropDown(accessibleName="Crosses the frame", toolTip="Which way the layer goes.")
        for way, name in WAYS.items():
            self.way.addItem(name, way)
        self.way.activated.connect(lambda _: self._choose_way(self.way.currentData()))
        page.watch(lambda clip: _of(clip, "way", "none"), self.way.show_data)
        self.add("Way", [self.way])
        self.by = Segments(_BY, "Speed by", {
            "length": "It takes all of the clip.", "speed": "It keeps its speed, whatever the clip's length.",
        })  # fmt: skip
        self.by.chosen.connect(self._choose_by)
        page.watch(
            plain(lambda clip: "length" if clip.crossing.speed is None else "speed"), self.by.show_choice
        )
        self.speed = self._number(
            "Speed", "", 5.0, 2, 0.001, 1_000_000, "speed", "In what stands right of it."
        )
        self.counted = DropDown(accessibleName="Speed in", toolTip="Counts the speed that it has otherwise.")
        self.counted.setIconSize(QSize(0, 0))
        for counted, name in _COUNTED.items():
            self.counted.addItem(name, counted)
        self.counted.activated.connect(lambda _: self._count_by(self.counted.currentData()))
        page.watch(lambda clip: _of(clip, "counted", ABSENT), self.counted.show_data)
        self.hold_start = self._number(
            "Holds at the start", "s", 0.05, 2, 0, 3600, "hold_start", "It stands first."
        )
        self.hold_end = self._number(
            "Holds at the end", "s", 0.05, 2, 0, 3600, "hold_end", "It stands at last."
        )
        self.from_rest = self._tick("Starts at", "It starts there, not off the frame.", "from_rest")
        self.to_rest = self._tick("Ends at", "It ends there, not off the frame.", "to_rest")
        tip = "Px from where the layer rests, right or down of it above 0; dragged in the picture, too."
        self.start = self._number("Start", "px", 1.0, 1, -1e7, 1e7, "start", tip)
        self.end = self._number("End", "px", 1.0, 1, -1e7, 1e7, "end", tip)
        self.whole = self._tick(
            "Whole px a frame", "So that it never shimmers; it starts farther out for it.", "whole_px"
        )
        self.said = QLabel("", objectName="muted", wordWrap=True)
        self.lengthen = QPushButton(
            "Lengthen the clip", objectName="link", toolTip="As long as its way takes."
        )
        self.lengthen.clicked.connect(lambda: page._do("Lengthen the clip", lengthen_for_crossing))
        self._shown = [
            self.add("Goes by", [self.by]), self.by, self.add("Holds", [self.hold_start, self.hold_end]),
            self.hold_start, self.hold_end, self.add("Ends", [self.from_rest, self.start]),
            self.add("", [self.to_rest, self.end]),
            self.from_rest, self.to_rest,
            self.add("", [self.whole]), self.whole, self.said,
        ]  # fmt: skip
        self._speed = [self.add("Speed", [self.speed, self.counted]), self.speed, self.counted]
        self.add_wide(self.said)
        self.add_wide(self.lengthen)

    def show_clip(self, clip: PictureClip) -> None:
        """Show the rows that the leading layer has."""
        crossing = clip.crossing
        for widget in self._shown:
            widget.setVisible(crossing is not None)
        for widget in self._speed:
            widget.setVisible(crossing is not None and crossing.speed is not None)
        self.start.setVisible(crossing is not None and crossing.from_rest)
        self.end.setVisible(crossing is not None and crossing.to_rest)
        way = None if crossing is None else Scene.of(self._page.document.project).motion(clip).crossing
        self.lengthen.setVisible(way is not None and way.is_short)
        if way is None:
            return
        rate = self._page.document.rate
        fastest = f"{abs(way.step):.2f} px a frame, {abs(way.step) * float(rate.fraction):.0f} px a second"
        words = counted_speed(way, "words", rate)
        fastest += "" if words is None else f", {words:.0f} words a minute"
        lacks = ""
        if way.is_short:
            needs, has = (float(rate.seconds(frames)) for frames in (way.needed, way.room))
            lacks = f" At its speed it needs {needs:.2f} s, and the clip has {has:.2f} s."
        self.said.setText(f"{fastest}.{lacks}")

    def summary(self, crossing: Crossing | None) -> str:
        """What there is, in a word."""
        return "none" if crossing is None else f"{'crawls' if crossing.across else 'rolls'} {crossing.way}"

    def _choose_way(self, way: str) -> None:
        if way == "none":
            self._page._do("Stand still", remove_crossing)
        else:
            title = "Crawl" if way in ("left", "right") else "Roll"
            self._page._do(f"{title} {way}", lambda p, i: set_crossing(p, i, way=way))

    def _choose_by(self, by: str) -> None:
        if by == "speed":
            self._page._do("Keep the speed", keep_speed)
        else:
            self._page._do("Cross in the clip's length", lambda p, i: set_crossing(p, i, speed=None))

    def _count_by(self, counted: Counted) -> None:
        """Count the speed otherwise; it stays as fast as it is."""
        self._page._do(f"Count the speed in {_COUNTED[counted]}", lambda p, i: keep_speed(p, i, counted))

    def _number(
        self, name: str, unit: str, step: float, decimals: int, low: float, high: float, field: str, tip: str
    ) -> NumberField:
        made = NumberField(name, unit, step, decimals, low=low, high=high)
        made.setToolTip(f"{name}. {tip}")
        return self._page._bind(
            made,
            f"Change the {name.lower()}",
            lambda p, i, value: set_crossing(p, i, **{field: value}),
            lambda clip: _of(clip, field, ABSENT),
        )

    def _tick(self, name: str, tip: str, field: str) -> Tick:
        made = Tick(name, tip)
        made.clicked.connect(lambda on: self._page._do(name, lambda p, i: set_crossing(p, i, **{field: on})))
        self._page.watch(lambda clip: _of(clip, field, ABSENT), made.show_ticked)
        return made


def _of(clip: Any, field: str, otherwise: Any) -> Any:
    """What a layer's crossing has in a field."""
    crossing = getattr(clip, "crossing", None)
    value = getattr(crossing, field) if crossing is not None else None
    return otherwise if value is None else value
