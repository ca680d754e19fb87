"""Waiting as the application does: Qt's own wait for tests sleeps up to 10 ms between events."""

from PySide6.QtCore import QEventLoop, QTimer


def wait(milliseconds: int) -> None:
    """Run the event loop for so long."""
    loop = QEventLoop()
    QTimer.singleShot(milliseconds, loop.quit)
    loop.exec()
