"""A title filled from a table: asked about, then put on the timeline or made as files beside editing."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtCore import QUrl
from PySide6.QtGui import QDesktopServices

from rovix.desktop.dialogs.table_window import TableWindow
from rovix.desktop.long_work import LongWork
from rovix.edit.titles import filled, put_title
from rovix.engine.bulk import table_rows
from rovix.engine.kept_shelf import Shelved
from rovix.engine.row_lanes import Made, row_values
from rovix.errors import RovixError
from rovix.formats.title_file import SavedTitle
from rovix.media.probe import probe
from rovix.model import Project

if TYPE_CHECKING:
    from rovix.desktop.frame import Frame

_WORK = "rovix.engine.bulk:make_rows_job"
_MOST_SAID = 4


def fill_from_table(window: Frame, path: Path, items: list[Shelved[SavedTitle]]) -> TableWindow | None:
    """Read a table and ask what it fills; the open dialog, None where the table cannot be read."""
    try:
        rows = table_rows(path)
    except RovixError as wrong:
        window.document.problem.emit(str(wrong))
        return None
    dialog = TableWindow(window, path, rows, items)
    dialog.accepted.connect(lambda: _taken(window, dialog))
    dialog.finished.connect(dialog.deleteLater)
    dialog.open()
    return dialog


def _taken(window: Frame, dialog: TableWindow) -> None:
    if dialog.outcome == "timeline":
        _put(window, dialog)
    else:
        _make(window, dialog)


def _put(window: Frame, dialog: TableWindow) -> None:
    """Each row as a title, one after the other from the playhead on: one step."""
    document, item, rows = window.document, dialog.item, dialog.good
    start, made = document.playhead, list[str]()

    def edit(project: Project) -> Project:
        at, track = start, None
        made.clear()
        title = dialog.title_here(document.base)
        for row in rows:
            values = row_values(row)
            done = filled(
                title, values, lambda p: probe(Path(p).resolve(), document.base), project.sequence.size
            )
            project, identity = put_title(project, item.saved.name, done, at, track, values)
            made.append(identity)
            track, clip = next(
                (n, c) for n, t in enumerate(project.sequence.tracks) for c in t.clips if c.id == identity
            )
            at = clip.end
        return project

    if document.do(f"Fill {item.saved.name} with {len(rows)} rows", edit):
        document.select(*made)
        window.say(f"{len(made)} titles from {dialog.path.name}, one after the other.")


def _make(window: Frame, dialog: TableWindow) -> None:
    """A file for each row, beside editing."""
    name, folder = dialog.item.saved.name, Path(dialog.folder.text()).expanduser().absolute()
    title, kind = dialog.title_here(Path("/")), dialog.choices.kind

    def done(made: list[Made]) -> None:
        bad = [one for one in made if one.problem]
        said = [f"Row {one.row}: {one.problem}" for one in bad[:_MOST_SAID]]
        if len(bad) > _MOST_SAID:
            said.append(f"and {len(bad) - _MOST_SAID} rows more; report.json names each.")
        head = f"{len(made) - len(bad)} of {len(made)} files made"
        window.offer(head, "\n".join(said) or f"In {folder}.", {"Show them": lambda: _show(folder)})

    work = (_WORK, title, name, dialog.rows, folder, kind.suffix, dialog.how)
    window.session.run(LongWork(window, f"Making {name}", work, done, counted="files"))


def _show(folder: Path) -> None:
    QDesktopServices.openUrl(QUrl.fromLocalFile(str(folder)))
