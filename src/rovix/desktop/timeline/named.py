"""Names typed over tracks, clips and markers."""

from __future__ import annotations

from PySide6.QtCore import QRectF

from rovix.desktop.timeline.naming import ask_name
from rovix.desktop.timeline.painted import Painted
from rovix.desktop.timeline.scale import HEADER, RULER
from rovix.edit.markers import rename_marker
from rovix.edit.tracks import change_track
from rovix.edit.tree import find_clip, replace, replace_clip
from rovix.model import Marker, Track


class Named(Painted):
    """Asks for names where they stand."""

    def rename_track(self, track: Track) -> None:
        """Ask for a track's name over its header."""
        number = next(
            n for n, other in enumerate(self.document.project.sequence.tracks) if other.id == track.id
        )
        row = next(row for row in self.rows() if row.track == number)
        box = QRectF(6, row.top + 3, HEADER - 14, min(row.height, 35) - 6)
        change = lambda name: self.document.do(  # noqa: E731
            f"Rename {track.name}", lambda p: change_track(p, track.id, name=name)
        )
        ask_name(self, track.name, "Track name", box, change)

    def rename_clip(self) -> None:
        """Type the selected clip's name over it."""
        clip = self.document.clip
        spot = find_clip(self.document.project, clip.id) if clip is not None else None
        if clip is None or spot is None:
            return
        row = next(row for row in self.rows() if row.track == spot.track)
        left = min(max(float(HEADER), self.scale.x(clip.start)), self.width() - 170.0)
        change = lambda name: self.document.do(  # noqa: E731
            f"Rename {clip.title}",
            lambda p: replace_clip(p, clip.id, lambda c: replace(c, name=name)),
        )
        ask_name(
            self, clip.name, "Clip name", QRectF(left, row.top + 2, 160, min(row.height, 30) - 4), change
        )

    def rename_marker(self, marker: Marker | None = None) -> None:
        """Type a marker's name at it; the one under the playhead by default."""
        markers = self.document.project.sequence.markers
        marker = marker or next((m for m in markers if m.frame == self.document.playhead), None)
        if marker is None:
            return
        left = min(max(float(HEADER), self.scale.x(marker.frame)), self.width() - 150.0)
        change = lambda name: self.document.do(  # noqa: E731
            f"Rename {marker.name or 'marker'}", lambda p: rename_marker(p, marker.id, name)
        )
        ask_name(self, marker.name, "Marker name", QRectF(left, 3, 140, RULER - 6), change)
