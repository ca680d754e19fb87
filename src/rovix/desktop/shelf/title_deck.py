"""The cards of titles: put in place of words, which they then say."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtCore import QByteArray, QMimeData

from rovix.desktop.document import Document
from rovix.desktop.timeline.canvas import TITLE_KIND
from rovix.edit.clips import remove_clip
from rovix.edit.each import ClipEdit
from rovix.edit.titles import as_long_as, filled, made_title, put_title
from rovix.edit.tree import clip_of, unlocked_spot
from rovix.engine.card_project import Card, title_project
from rovix.engine.kept_shelf import Shelved
from rovix.engine.titles import TitleShelf, title_for
from rovix.errors import RovixError
from rovix.formats.title_file import SavedTitle
from rovix.model import Clip, Project, TextClip
from rovix.model.clip_kinds import has_words, is_layer
from rovix.model.title import Title
from rovix.time import Rate

_OWN = "Your own"


class TitleDeck:
    """The ready titles and the user's own."""

    title = "Title"
    hint = "Select words to put a title in their place, or drag one to the timeline."
    said = "title"
    article = "a title"

    def __init__(self, shelf: TitleShelf, document: Document) -> None:
        self.shelf, self._document = shelf, document
        self.items: list[Shelved[SavedTitle]] = []
        self._said_for: tuple[str, Path] | None = None
        self._said: dict[Path, tuple[SavedTitle, Title]] = {}

    @property
    def note(self) -> str:
        """What to say below the cards."""
        return ""

    def item(self, number: int) -> Shelved[SavedTitle] | None:
        """The file of a card."""
        return self.items[number]

    def saved(self, number: int) -> SavedTitle:
        """What a card stands for, as it is kept."""
        return self.items[number].saved

    def worn(self, clip: Clip | None, name: str, frame: float) -> SavedTitle | None:
        """A title is made of layers; none has one on."""
        return None

    def keeps(self) -> bool:
        """Whether something is selected that can be kept as a title."""
        selected = set(self._document.selection)
        tracks = self._document.project.sequence.tracks
        return any(is_layer(clip) and clip.id in selected for track in tracks for clip in track.clips)

    def made(self) -> Title:
        """The selected layers as a title. RovixError where they make none."""
        document = self._document
        return made_title(document.project, document.selection, document.base)

    def _base(self) -> Path:
        return self._document.base

    def read(self) -> None:
        """Read the titles again."""
        self.items = self.shelf.all()

    def names(self) -> list[str]:
        return [item.saved.name for item in self.items]

    def about(self, number: int) -> str:
        saved = self.items[number].saved
        said = " ".join(setting.name for setting in saved.title.settings)
        return f"{saved.name} {saved.title.group} {said}".lower()

    def is_own(self, number: int) -> bool:
        return self.items[number].own

    def family(self, number: int) -> str:
        item = self.items[number]
        return _OWN if item.own else item.saved.title.group or "Titles"

    def removing(self) -> tuple[str, ClipEdit] | None:
        return None

    def usable(self, clip: Clip | None) -> bool:
        return has_words(clip)

    def chosen(self, clip: Clip | None) -> int | None:
        return None

    def trying(self, number: int) -> ClipEdit:
        item = self.items[number]
        return lambda project, identity: in_place_of(project, identity, item, self._base())

    def taking(self, number: int) -> tuple[str, ClipEdit]:
        return f"Put {self.items[number].saved.name} in place of", self.trying(number)

    def stacking(self, number: int) -> tuple[str, ClipEdit] | None:
        return None

    def drawn(self, clip: TextClip, rate: Rate) -> tuple[Project, list[Card]]:
        content, base = clip.text.content, self._base()
        if self._said_for != (content, base):
            self._said_for, self._said = (content, base), {}
        # Kept as they are while the words stay: what is derived of them, such as layouts, stays too.
        kept = self._said
        self._said = {
            item.path: kept[item.path] if item.path in kept and kept[item.path][0] is item.saved
            else (item.saved, saying(title_for(item, base), content))
            for item in self.items
        }  # fmt: skip
        return title_project([title for _, title in self._said.values()], rate)


def title_carried(path: Path) -> QMimeData:
    """What the card of a title hands over when it is dragged."""
    data = QMimeData()
    data.setData(TITLE_KIND, QByteArray(str(path).encode()))
    return data


def saying(title: Title, content: str, like: tuple[int, int] | None = None) -> Title:
    """The title with words in the first place that it has for some, in a frame of the shape of `like`."""
    first = next((setting.name for setting in title.settings if setting.kind == "words"), None)
    said = {} if first is None or not content.strip() else {first: content}
    return filled(title, said, like=like)


def in_place_of(project: Project, identity: str, item: Shelved[SavedTitle], base: Path) -> Project:
    """A title in place of a text layer: it says its words, from where it starts, as long as it is where it
    can."""
    clip = clip_of(project, identity)
    if not has_words(clip):
        raise RovixError(f"'{clip.title}' has no words that a title could say; select a text layer.")
    number = unlocked_spot(project, identity).track
    title = as_long_as(title_for(item, base), clip.length, project.sequence.frame_rate)
    title = saying(title, clip.text.content, project.sequence.size)
    return put_title(remove_clip(project, identity), item.saved.name, title, clip.start, number)[0]
