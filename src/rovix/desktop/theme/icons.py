"""Our own icons: SVG drawings that take the colour of a role."""

from __future__ import annotations

from functools import lru_cache
from pathlib import Path

from PySide6.QtCore import QByteArray, QRectF, Qt
from PySide6.QtGui import QIcon, QPainter, QPixmap
from PySide6.QtSvg import QSvgRenderer

from rovix.desktop.theme.roles import DARK

FOLDER = Path(__file__).parent.parent / "icons"


@lru_cache(maxsize=256)
def icon(name: str, role: str = "text", size: int = 18) -> QIcon:
    """An icon of the icons folder in a role's colour, sharp up to three times its size."""
    made = QIcon()
    for ratio in (1, 2, 3):
        made.addPixmap(_pixmap(name, getattr(DARK, role), size, ratio))
    return made


def _pixmap(name: str, shade: str, size: int, ratio: int) -> QPixmap:
    drawing = (FOLDER / f"{name}.svg").read_text(encoding="utf-8").replace("currentColor", shade)
    pixmap = QPixmap(size * ratio, size * ratio)
    pixmap.fill(Qt.GlobalColor.transparent)
    painter = QPainter(pixmap)
    QSvgRenderer(QByteArray(drawing.encode())).render(painter, QRectF(0, 0, size * ratio, size * ratio))
    painter.end()
    pixmap.setDevicePixelRatio(ratio)
    return pixmap
