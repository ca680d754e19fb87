"""Words: editing them, and their moves."""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING, get_args

from rovix.desktop import clipboard
from rovix.desktop.commands.command import Command, Run, done, layer, making, on_each, several, words
from rovix.desktop.new_text import forget_style, has_style, keep_style
from rovix.edit import move_of
from rovix.edit.crossing import remove_crossing, set_crossing
from rovix.edit.moves import put_move_back, reverse_entrances
from rovix.edit.selected_clips import STAGGERED
from rovix.edit.text_clips import Kind, join_texts, split_on_markers, split_text
from rovix.edit.tree import clip_by_id, clip_of, title_of
from rovix.errors import RovixError
from rovix.model import Move, Project, TextClip
from rovix.model.clip_kinds import has_words
from rovix.model.roles import ROLES

if TYPE_CHECKING:
    from rovix.desktop.frame import Frame


def _keep_style(window: Frame) -> None:
    clip = window.document.clip
    if isinstance(clip, TextClip):
        keep_style(window.settings, clip)
        window.say("New text begins in this style.")


def _keep_look(window: Frame) -> None:
    window.shelf.open_role("look")
    window.shelf.keeping.keep()


def _show(role: str) -> Run:
    """Show the cards of a role, and let the keyboard search them."""

    def run(window: Frame) -> None:
        window.shelf.open_role(role)
        window.shelf.take_keyboard()

    return run


def _paste_staggered(window: Frame) -> None:
    """Paste the motion and let each layer enter a few frames after the one before it in time."""
    said = "Paste the motion, staggered", "From layer to layer"
    frames = window.ask_number(*said, STAGGERED, -10_000, 10_000, "f")
    if frames is not None:
        clipboard.paste_motion(window.document, round(frames))


def _cross(way: str) -> Run:
    """Let the selected layers cross the frame, and show how they do in the sheet."""
    title = f"{'Crawl' if way in ('left', 'right') else 'Roll'} {way},"
    give = on_each(title, lambda p, i: set_crossing(p, i, way=way))

    def run(window: Frame) -> None:
        give(window)
        window.sheet.open_page("Motion")
        window.sheet.page("Motion").open_crossing()  # type: ignore[attr-defined]

    return run


def _card_of(move: Move | None, window: Frame) -> Move | None:
    """The move of the card that a layer's move was taken from, by its role and name."""
    return None if move is None else window.shelf.card_move(move.role, move.name)


def _reset_move(window: Frame) -> None:
    """Give the tuned move, and those that stand for it in other selected layers, what their cards have."""
    document, tuned = window.document, window.document.tuned
    if tuned is None:
        return

    def edit(project: Project, identity: str) -> Project:
        clip = clip_of(project, identity)
        own = move_of(clip, tuned.role)
        card = _card_of(own, window)
        if own is None or card is None:
            raise RovixError(f"'{title_of(clip)}' has no {tuned.role} of a card.")
        return put_move_back(project, identity, own.id, card)

    document.do_each(f"Reset {tuned.name}", document.selection, edit)


def _split(
    kind: Kind, split: Callable[[Project, str, Kind], tuple[Project, list[str]]] = split_text
) -> Callable[[Project, tuple[str, ...]], tuple[Project, list[str]]]:
    def edit(project: Project, identities: tuple[str, ...]) -> tuple[Project, list[str]]:
        made: list[str] = []
        for identity in identities:
            if has_words(clip_of(project, identity)):
                project, ids = split(project, identity, kind)
                made += ids
        return project, made

    return edit


def _join(project: Project, identities: tuple[str, ...]) -> tuple[Project, list[str]]:
    project, made = join_texts(project, identities)
    return project, [made]


def _some_words(window: Frame) -> bool:
    """Whether two text layers or more are selected."""
    found = (clip_by_id(window.document.project, identity) for identity in window.document.selection)
    return sum(map(has_words, found)) > 1


WORDS = (
    Command("edit-words", "Edit the words in the picture", "Text", "F2", lambda w: w.viewer.edit_words(), words),
    Command("pick-font", "Choose the typeface…", "Text", "Ctrl+T", lambda w: done(w.pick_font()), words),
    Command("find-words", "Find and replace…", "Text", "Ctrl+F", lambda w: done(w.find_words())),
    *(Command(f"split-{kind}", f"Split into {kind}", "Text", "", making(f"Split into {kind}:", _split(kind)), words,
              under="Split and join")
      for kind in get_args(Kind)),
    *(Command(f"split-{kind}-markers", f"Split into {kind} on the markers", "Text", "",
              making(f"Split into {kind} on the markers:", _split(kind, split_on_markers)), words, under="Split and join")
      for kind in get_args(Kind)),
    *(Command(f"split-{kind}-tapped", f"Split into {kind}, tapped in…", "Text", "",
              lambda w, kind=kind: w.tapper.begin_split(kind), words, under="Split and join")  # type: ignore[misc]
      for kind in get_args(Kind)),
    Command("join-words", "Join the words", "Text", "", making("Join the words", _join, named=False), _some_words,
            under="Split and join"),
    Command("copy-look", "Copy the look", "Text", "Ctrl+Alt+C", lambda w: clipboard.copy_look(w.document), words,
            ruled=True),
    Command("paste-look", "Paste the look", "Text", "", lambda w: clipboard.paste_look(w.document), words),
    Command("style-new", "Use as the style of new text", "Text", "", _keep_style, words, under="New text"),
    Command("style-plain", "New text begins plain again", "Text", "",
            lambda w: forget_style(w.settings), lambda w: has_style(w.settings), under="New text"),
    Command("keep-look", "Keep the look in the shelf…", "Text", "", _keep_look, words),
    Command("show-looks", "Show the looks", "Text", "Ctrl+L", _show("look"), under="Show"),
    Command("show-effects", "Show the effects", "Text", "", _show("effects"), under="Show"),
    *(Command(f"show-{facts.plural}", f"Show the {facts.plural}", "Text", "", _show(role), under="Show")
      for role, facts in ROLES.items()),
    Command("copy-motion", "Copy the motion", "Text", "Ctrl+Shift+Alt+C",
            lambda w: clipboard.copy_motion(w.document),
            lambda w: bool(getattr(w.document.clip, "moves", ())), ruled=True),
    Command("paste-motion", "Paste the motion on all selected", "Text", "Ctrl+Shift+Alt+V",
            lambda w: clipboard.paste_motion(w.document), layer),
    Command("paste-motion-staggered", "Paste the motion, staggered…", "Text", "", _paste_staggered, several),
    Command("reverse-entrance", "Entrance, reversed, for the exit", "Text", "",
            on_each("Entrance, reversed, for the exit of", reverse_entrances),
            lambda w: move_of(w.document.clip, "entrance") is not None, ruled=True, under="Change the moves"),
    *(Command(f"cross-{way}", f"{'Crawl' if way in ('left', 'right') else 'Roll'} {way}", "Text", "", _cross(way), layer, under="Crawl and roll")
      for way in ("left", "right", "up", "down")),
    Command("cross-none", "Neither crawl nor roll", "Text", "", on_each("Stand still", remove_crossing),
            lambda w: getattr(w.document.clip, "crossing", None) is not None, under="Crawl and roll"),
    Command("reset-move", "Put the move back as its card has it", "Text", "", _reset_move,
            lambda w: _card_of(w.document.tuned, w) is not None, under="Change the moves"),
)  # fmt: skip
