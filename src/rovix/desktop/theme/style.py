"""The style sheet, palette and typeface, made from the roles."""

from __future__ import annotations

from functools import lru_cache

from PySide6.QtGui import QColor, QFont, QFontDatabase, QPalette
from PySide6.QtWidgets import QApplication, QWidget

from rovix.desktop.theme.roles import DARK
from rovix.text.catalogue import FONTS

BASE_PX = 12


@lru_cache(maxsize=1)
def _family() -> str:
    for path in sorted((FONTS / "inter").glob("*.ttf")):
        QFontDatabase.addApplicationFont(str(path))
    return "Inter"


_scale = 1.0


def font(size: float = 1.0, weight: QFont.Weight = QFont.Weight.Normal) -> QFont:
    """The interface face at a multiple of its plain size; figures all of one width."""
    made = QFont(_family())
    made.setPixelSize(max(8, round(BASE_PX * size * _scale)))
    made.setWeight(weight)
    made.setFeature(QFont.Tag("tnum"), 1)
    return made


def apply_theme(application: QApplication, text_scale: float = 1.0) -> None:
    """Style, face and palette for the application, and the sheet for windows that have it already;
    `text_scale` 1.5 is text at 150 %."""
    global _scale
    _scale = text_scale
    application.setStyle("Fusion")
    application.setFont(font())
    application.setPalette(_palette())
    for window in application.topLevelWidgets():
        if window.styleSheet():
            give_sheet(window)


def give_sheet(window: QWidget) -> None:
    """Give a window, and all that belongs to it, the style sheet; best once it is built.

    Under a sheet of the whole application each widget that is put into another has its style looked
    up anew, and that of all within it: most of the time that a window took to build.
    """
    window.setStyleSheet(_sheet(round(BASE_PX * _scale)))


def _palette() -> QPalette:
    palette = QPalette()
    for place, role in (
        (QPalette.ColorRole.Window, "ground"),
        (QPalette.ColorRole.WindowText, "text"),
        (QPalette.ColorRole.Base, "field_edit"),
        (QPalette.ColorRole.AlternateBase, "panel"),
        (QPalette.ColorRole.Text, "text"),
        (QPalette.ColorRole.Button, "raised"),
        (QPalette.ColorRole.ButtonText, "text"),
        (QPalette.ColorRole.ToolTipBase, "raised"),
        (QPalette.ColorRole.ToolTipText, "text"),
        (QPalette.ColorRole.PlaceholderText, "muted"),
        (QPalette.ColorRole.Highlight, "accent"),
        (QPalette.ColorRole.HighlightedText, "on_accent"),
        (QPalette.ColorRole.Link, "accent"),
    ):
        palette.setColor(place, QColor(getattr(DARK, role)))
    return palette


def _sheet(px: int) -> str:
    # Long: one style sheet is one text, rule after rule.
    r = DARK
    return f"""
    * {{ font-size: {px}px; }}
    QMainWindow, QDialog {{ background: {r.ground}; }}
    QFrame#panel {{ background: {r.panel}; border-radius: 10px; }}
    QFrame#rule {{ background: {r.line}; border: none; }}
    QLabel {{ background: transparent; color: {r.text}; }}
    QLabel#muted {{ color: {r.muted}; }}
    QLabel#heading {{ font-weight: 600; }}
    QLabel#mark {{ color: {r.accent}; font-weight: 700; font-size: {px + 3}px; }}
    QLabel#problem {{ color: {r.problem}; }}
    QToolTip {{ background: {r.raised}; color: {r.text}; border: 1px solid {r.line}; padding: 5px; }}
    QPushButton {{ background: {r.raised}; border: 1px solid transparent; border-radius: 12px;
        padding: 5px 14px; min-height: {px + 3}px; }}
    QPushButton:hover {{ background: {r.lifted}; }}
    QPushButton:focus {{ border-color: {r.accent}; }}
    QPushButton:disabled {{ color: {r.muted}; background: transparent; border-color: {r.line}; }}
    QPushButton#primary {{ background: {r.accent}; color: {r.on_accent}; font-weight: 600; }}
    QPushButton#primary:disabled {{ background: {r.lifted}; color: {r.muted}; }}
    QPushButton#primary:focus {{ border-color: {r.text}; }}
    QPushButton#link {{ background: transparent; color: {r.accent}; padding: 2px 4px; border-radius: 4px; }}
    QPushButton#segment {{ border-radius: 5px; padding: 3px 5px; color: {r.muted}; }}
    QPushButton#segment:checked {{ background: {r.lifted}; color: {r.text}; border-color: {r.entrance}; }}
    QPushButton#segment[role="loop"]:checked {{ border-color: {r.loop}; }}
    QPushButton#segment[role="exit"]:checked {{ border-color: {r.exit}; }}
    QPushButton#field {{ border-radius: 5px; padding: 3px 7px; text-align: left; }}
    QFrame#dropmark {{ background: {r.accent}; border: none; }}
    QPushButton#tab {{ background: transparent; border: none; border-bottom: 2px solid transparent;
        border-radius: 0; padding: 8px 0; color: {r.muted}; }}
    QPushButton#tab:checked {{ color: {r.text}; border-bottom-color: {r.accent}; }}
    QPushButton#tab[role="entrance"]:checked {{ border-bottom-color: {r.entrance}; }}
    QPushButton#tab[role="loop"]:checked {{ border-bottom-color: {r.loop}; }}
    QPushButton#tab[role="exit"]:checked {{ border-bottom-color: {r.exit}; }}
    QPushButton#tab:focus {{ color: {r.accent}; }}
    QPushButton#toggle {{ background: transparent; color: {r.muted}; padding: 3px 6px; border-radius: 5px; }}
    QPushButton#toggle[wrong="true"] {{ color: {r.problem}; }}
    QPushButton#toggle:checked {{ color: {r.text}; background: {r.raised}; }}
    QPushButton#toggle:focus, QToolButton:focus {{ border: 1px solid {r.accent}; }}
    QToolButton {{ background: transparent; border: 1px solid transparent; border-radius: 6px;
        padding: 4px; }}
    QToolButton#small {{ padding: 1px; }}
    QToolButton:hover {{ background: {r.raised}; }}
    *[plain="true"]::menu-indicator {{ image: none; width: 0; }}
    QComboBox, QLineEdit, QPlainTextEdit, QSpinBox {{ background: {r.raised}; color: {r.text};
        border: 1px solid transparent; border-radius: 5px; padding: 3px 7px;
        selection-background-color: {r.accent}; selection-color: {r.on_accent}; }}
    QLineEdit#time {{ background: transparent; padding: 1px 3px; }}
    QLineEdit#time:focus {{ background: {r.field_edit}; }}
    QSpinBox::up-button, QSpinBox::down-button {{ width: 0; border: none; }}
    QSpinBox:disabled {{ color: {r.muted}; }}
    QComboBox:focus, QLineEdit:focus, QPlainTextEdit:focus, QSpinBox:focus {{ border-color: {r.accent}; }}
    QComboBox::drop-down {{ border: none; width: 16px; }}
    QComboBox QAbstractItemView {{ background: {r.raised}; border: 1px solid {r.line};
        selection-background-color: {r.lifted}; selection-color: {r.text}; outline: 0; }}
    QMenuBar {{ background: {r.ground}; padding: 4px 4px 0 4px; }}
    QMenuBar::item {{ background: transparent; padding: 4px 7px; border-radius: 5px; color: {r.text}; }}
    QMenuBar::item:selected {{ background: {r.raised}; }}
    QFrame#popup {{ background: {r.panel}; border: 1px solid {r.line}; }}
    QMenu {{ background: {r.raised}; border: 1px solid {r.line}; padding: 5px; }}
    QMenu::item {{ padding: 5px 26px 5px 14px; border-radius: 5px; }}
    QMenu::item:selected {{ background: {r.lifted}; }}
    QMenu::item:disabled {{ color: {r.muted}; }}
    QMenu::separator {{ height: 1px; background: {r.line}; margin: 5px 8px; }}
    QTreeWidget {{ background: {r.panel}; border: none; outline: 0; }}
    QTreeWidget::item {{ padding: 6px 8px; border-radius: 5px; }}
    QTreeWidget::item:selected {{ background: {r.lifted}; color: {r.text}; }}
    QProgressBar {{ background: {r.lifted}; border: none; border-radius: 2px; max-height: 4px; }}
    QProgressBar::chunk {{ background: {r.accent}; border-radius: 2px; }}
    QScrollBar:horizontal {{ background: transparent; height: 9px; }}
    QScrollBar:vertical {{ background: transparent; width: 9px; }}
    QScrollBar::handle {{ background: {r.lifted}; border-radius: 4px; min-width: 24px; min-height: 24px; }}
    QScrollBar::add-line, QScrollBar::sub-line, QScrollBar::add-page, QScrollBar::sub-page
        {{ background: none; width: 0; height: 0; }}
    QScrollArea {{ background: transparent; border: none; }}
    QScrollArea > QWidget > QWidget {{ background: transparent; }}
    QListWidget, QTextBrowser {{ background: {r.panel}; border: none; border-radius: 6px; padding: 4px; }}
    QListWidget::item {{ padding: 5px 8px; border-radius: 5px; color: {r.text}; }}
    QListWidget::item:selected {{ background: {r.lifted}; color: {r.text}; }}
    QListWidget:focus {{ border: 1px solid {r.accent}; }}
    QTableWidget {{ background: {r.panel}; gridline-color: {r.line}; border: none; }}
    QTableWidget::item:selected {{ background: {r.lifted}; color: {r.text}; }}
    QHeaderView::section {{ background: {r.panel}; color: {r.muted}; border: none; padding: 5px; }}
    QCheckBox {{ spacing: 7px; }}
    QCheckBox::indicator {{ width: 13px; height: 13px; border: 1px solid {r.muted}; border-radius: 3px;
        background: {r.field_edit}; }}
    QCheckBox::indicator:checked {{ background: {r.accent}; border-color: {r.accent}; }}
    QCheckBox::indicator:disabled {{ border-color: {r.line}; }}
    QCheckBox:focus, QRadioButton:focus {{ color: {r.accent}; }}
    QRadioButton {{ spacing: 7px; }}
    QRadioButton:disabled {{ color: {r.muted}; }}
    QRadioButton::indicator {{ width: 13px; height: 13px; border: 1px solid {r.muted}; border-radius: 7px;
        background: {r.field_edit}; }}
    QRadioButton::indicator:checked {{ background: {r.accent}; border-color: {r.accent}; }}
    QRadioButton::indicator:disabled {{ border-color: {r.line}; background: {r.field_edit}; }}
    """
