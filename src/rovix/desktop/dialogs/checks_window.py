"""The list of what checks have found: a click goes there, a button mends it or lets it be."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PySide6.QtCore import Qt
from PySide6.QtGui import QColor
from PySide6.QtWidgets import (
    QCheckBox,
    QDialog,
    QHBoxLayout,
    QLabel,
    QPushButton,
    QTreeWidget,
    QTreeWidgetItem,
    QVBoxLayout,
)

from rovix.check.audience import AUDIENCES
from rovix.check.finding import KINDS, Finding
from rovix.desktop.dialogs.keep_free_window import KeepFreeWindow
from rovix.desktop.dialogs.name_asked import asked_name
from rovix.desktop.live_checks import LiveChecks
from rovix.desktop.sheet.drop_down import DropDown
from rovix.desktop.theme import colour
from rovix.edit.accepting import accept, look_again
from rovix.edit.check_fixes import FIXES, fixed
from rovix.edit.levels import Level
from rovix.edit.tree import clip_by_id
from rovix.model.accepted import Accepted
from rovix.time import timecode

if TYPE_CHECKING:
    from rovix.desktop.frame import Frame

_DATA = Qt.ItemDataRole.UserRole


class ChecksWindow(QDialog):
    """Stays open beside editing, and follows the live checks."""

    def __init__(self, window: Frame, checks: LiveChecks) -> None:
        # Long: the parts in the order in which they stand, a statement or two each.
        super().__init__(window, windowTitle="Checks")
        self._window, self._checks = window, checks
        self.resize(620, 420)
        self._heading = QLabel("", objectName="heading", wordWrap=True)
        tip = "Who reads it: how many letters a second are read, how many words a minute of what passes."
        self.audience = DropDown(accessibleName="For whom", toolTip=tip)
        for key, who in AUDIENCES.items():
            self.audience.addItem(f"For {who.title.lower()}, {who.letters:g} letters a second", key)
        self.audience.show_data(checks.audience)
        self.audience.setMinimumWidth(230)
        self.audience.activated.connect(lambda _: checks.choose_audience(self.audience.currentData()))
        self.list = QTreeWidget(accessibleName="What was found", rootIsDecorated=False)
        self.list.setHeaderLabels(["At", "Layer", "What"])
        self.list.currentItemChanged.connect(lambda *_: self._show_chosen())
        self.list.itemClicked.connect(lambda *_: self.go())
        self.list.itemActivated.connect(lambda *_: self.go())
        self._said = QLabel("", wordWrap=True)
        self._way_on = QLabel("", objectName="muted", wordWrap=True)
        self.with_accepted = QCheckBox("Accepted ones too")
        self.with_accepted.setToolTip(
            "What was accepted as it is, with the reason; it can be looked at again."
        )
        self.with_accepted.toggled.connect(lambda _: self.refresh())
        self._fixes = QHBoxLayout()
        self._buttons: list[QPushButton] = []
        free = QPushButton(
            "Keep areas free…", toolTip="Boxes that words keep out of, such as a player's buttons."
        )
        free.setAutoDefault(False)
        free.clicked.connect(self.keep_free)
        close = QPushButton("Close", autoDefault=False)
        close.clicked.connect(self.reject)
        top = QHBoxLayout()
        top.addWidget(self._heading, 1)
        top.addWidget(self.audience)
        foot = QHBoxLayout()
        foot.addWidget(self.with_accepted)
        foot.addStretch(1)
        foot.addWidget(free)
        foot.addWidget(close)
        column = QVBoxLayout(self)
        column.setSpacing(8)
        column.addLayout(top)
        column.addWidget(self.list, 1)
        column.addWidget(self._said)
        column.addWidget(self._way_on)
        column.addLayout(self._fixes)
        column.addLayout(foot)
        checks.changed.connect(self.refresh)
        window.document.project_changed.connect(self._project_changed)
        self.refresh()

    @property
    def chosen(self) -> Finding | Accepted | None:
        """What the chosen row stands for."""
        item = self.list.currentItem()
        return None if item is None else item.data(0, _DATA)

    def _project_changed(self) -> None:
        if not self._window.document.history.has_draft:
            self.refresh()

    def refresh(self) -> None:
        """List what is known now; the chosen one stays chosen."""
        before, rate = self.chosen, self._window.document.rate
        found = self._live()
        self.list.blockSignals(True)
        self.list.clear()
        again = None
        for one in found:
            item = QTreeWidgetItem([timecode(one.frame, rate), one.name, KINDS[one.kind].title])
            item.setData(0, _DATA, one)
            item.setToolTip(2, f"{one.said} {KINDS[one.kind].way_on}")
            if not KINDS[one.kind].warns:
                item.setForeground(2, QColor(colour("problem")))
            self.list.addTopLevelItem(item)
            if isinstance(before, Finding) and before.key == one.key:
                again = item
        for kept in self._document_accepted() if self.with_accepted.isChecked() else ():
            item = QTreeWidgetItem(["accepted", self._name(kept.layer), KINDS[kept.kind].title])
            item.setData(0, _DATA, kept)
            for column in range(3):
                item.setForeground(column, QColor(colour("muted")))
            self.list.addTopLevelItem(item)
        chosen = again or self.list.topLevelItem(0)
        if chosen is not None:
            self.list.setCurrentItem(chosen)
        self.list.blockSignals(False)
        for column in range(2):
            self.list.resizeColumnToContents(column)
        self._heading.setText(self._headline(found))
        self._show_chosen()

    def _live(self) -> list[Finding]:
        """What was found and has not been accepted since."""
        accepted = {(one.kind, one.layer or "") for one in self._document_accepted()}
        return [one for one in self._checks.findings if one.key not in accepted]

    def _document_accepted(self) -> list[Accepted]:
        sequence = self._window.document.delivered.sequence
        return [one for one in sequence.accepted if one.kind in KINDS]

    def _name(self, layer: str | None) -> str:
        clip = clip_by_id(self._window.document.delivered, layer)
        return "" if clip is None else clip.title

    def _headline(self, found: list[Finding]) -> str:
        hints = sum(KINDS[one.kind].warns for one in found)
        wrong = len(found) - hints
        parts = [f"{wrong} to mend"] if wrong else []
        parts += [f"{hints} hint{'s' if hints > 1 else ''}"] if hints else []
        said = ", ".join(parts) or "Nothing was found"
        if self._checks.is_near:
            said += " near the playhead"
        if self._checks.problem:
            return f"{said}. {self._checks.problem}"
        return f"{said}. Still looking…" if self._checks.share is not None else f"{said}."

    def _show_chosen(self) -> None:
        """What the chosen one is, and what can be done about it."""
        while self._fixes.count():
            taken = self._fixes.takeAt(0)
            widget = taken.widget() if taken is not None else None
            if widget is not None:
                widget.hide()
                widget.deleteLater()
        self._buttons = []
        one = self.chosen
        if isinstance(one, Finding):
            self._said.setText(one.said)
            self._way_on.setText(KINDS[one.kind].way_on)
            for number, fix in enumerate(KINDS[one.kind].fixes if one.layer else ()):
                self._button(FIXES[fix][0], lambda f=fix: self.mend(f), number == 0)
            self._button("Accept this one…", self.accept_chosen)
        elif isinstance(one, Accepted):
            self._said.setText(f"Accepted: {one.reason or 'no reason given'}.")
            self._way_on.setText("")
            self._button("Look at it again", self.look_again)
        else:
            self._said.setText("")
            self._way_on.setText("")
        self._fixes.addStretch(1)

    def _button(self, said: str, run: object, first: bool = False) -> None:
        button = QPushButton(said, autoDefault=False)
        if first:
            button.setObjectName("primary")
        button.clicked.connect(run)
        self._fixes.addWidget(button)
        self._buttons.append(button)

    def go(self) -> None:
        """Go where the chosen one is worst, its layer selected."""
        one, document = self.chosen, self._window.document
        if not isinstance(one, Finding):
            return
        if document.level.groups:
            document.open_level(Level(document.level.sequence))
        document.seek(one.frame)
        if one.layer and clip_by_id(document.project, one.layer) is not None:
            document.select(one.layer)

    def mend(self, fix: str) -> None:
        """One step that mends the chosen one."""
        one = self.chosen
        if isinstance(one, Finding):
            self.go()
            self._window.document.do(FIXES[fix][0], lambda project: fixed(project, one, fix))

    def accept_chosen(self) -> None:
        """Let it be as it is, with a reason that is kept in the file."""
        one = self.chosen
        if not isinstance(one, Finding):
            return
        reason = asked_name(self, "Why may it stay as it is?", "")
        if reason is not None:
            self._at_top(f"Accept: {KINDS[one.kind].title.lower()}", lambda p: accept(p, one, reason))

    def look_again(self) -> None:
        """No longer accept it."""
        one = self.chosen
        if isinstance(one, Accepted):
            self._at_top("Look at it again", lambda p: look_again(p, one.kind, one.layer or ""))

    def _at_top(self, title: str, edit) -> None:  # type: ignore[no-untyped-def]
        """A step on the sequence itself, whatever group is open."""
        document = self._window.document
        if document.level.groups:
            document.open_level(Level(document.level.sequence))
        document.do(title, edit)

    def keep_free(self) -> None:
        """Show the areas that are kept free."""
        KeepFreeWindow(self._window).show()
