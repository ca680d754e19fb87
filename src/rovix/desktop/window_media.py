"""Bringing files in, and finding those that are missing."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtCore import QUrl

from rovix.desktop.behind import remake
from rovix.desktop.bringing_captions import BringingCaptions
from rovix.desktop.bringing_fonts import BringingFonts
from rovix.desktop.frame import Frame
from rovix.desktop.importing import Importing
from rovix.desktop.key_selection import spots_of
from rovix.desktop.new_text import styled
from rovix.desktop.relinking import Relinking
from rovix.edit.credits_roll import add_credits
from rovix.edit.key_clips import paste_keys
from rovix.errors import RovixError
from rovix.exchange import CAPTION_FORMATS
from rovix.exchange.captions import read_text_file
from rovix.formats.keys_csv import parse_keys_csv
from rovix.model import Media, Project, Text, TextClip, new_id
from rovix.text.catalogue import look_for_fonts_again
from rovix.text.font_files import SUFFIXES

_CREDITS = 54.0  # px of the letters of credits that begin plain


class WindowMedia(Frame):
    """Imports media and looks for what is missing."""

    def import_media(self, paths: list[Path]) -> None:
        """Put media files at the playhead; fonts and captions among them are brought in."""
        fonts = [path for path in paths if path.suffix.lower() in SUFFIXES]
        captions = [path for path in paths if path.suffix.lower() in CAPTION_FORMATS]
        media = [path for path in paths if path not in (*fonts, *captions)]
        self.bring_fonts(fonts)
        for path in captions:
            self.bring_captions(path)
        if media:
            self.session.run(Importing(self, media))

    def bring_credits(self, path: Path) -> None:
        """Put the words of a text file at the playhead as credits that roll."""
        document = self.document
        try:
            content, _ = read_text_file(path)
        except RovixError as wrong:
            document.problem.emit(str(wrong))
            return
        clip = styled(self.settings, TextClip(id=new_id(), text=Text(size=_CREDITS)))
        if document.do("Bring in credits", lambda p: add_credits(p, document.playhead, content, clip)):
            document.select(clip.id)

    def bring_keys(self, path: Path) -> None:
        """Put the keys of a CSV into the layer selected last."""
        document, clip = self.document, self.document.clip
        placed: dict[str, tuple[int, ...]] = {}
        if clip is None:
            return
        try:
            copied, first = parse_keys_csv(read_text_file(path)[0])
        except RovixError as wrong:
            document.problem.emit(f"{path.name}: {wrong}")
            return

        def edit(project: Project) -> Project:
            project, put = paste_keys(project, clip.id, copied, first)
            placed.update(put)
            return project

        if document.do(f"Bring in keys from {path.name}", edit):
            document.keys.set(spots_of(clip.id, placed))
            left = [address for address in copied.channels if address not in placed]
            if left:
                self.say(f"Not taken by this layer: {', '.join(left)}.")

    def bring_captions(self, path: Path) -> None:
        """Read a file of captions, and ask how they are to be set."""
        self.session.run(BringingCaptions(self, path))

    def bring_fonts(self, paths: list[Path]) -> None:
        """Check font files, and ask where they are to go."""
        if paths:
            self.session.run(BringingFonts(self, paths))

    def look_for_fonts(self) -> None:
        """Fonts have come or gone: whatever is set in them is laid out anew."""
        look_for_fonts_again()
        self.document.project_changed.emit()
        self.fonts_changed.emit()

    def list_files(self, urls: list[QUrl]) -> None:
        """Put files on the project's list without a clip."""
        paths = [Path(url.toLocalFile()) for url in urls if url.isLocalFile()]
        if paths:
            self.session.run(Importing(self, paths, placed=False))

    def missing_media(self) -> list[Media]:
        """The files of the project that are not where it says."""
        return self.shelf.media.files.missing

    def relink_missing(self) -> None:
        """Ask for a folder and look for missing files there."""
        self.shelf.media.refresh(True)
        missing = self.missing_media()
        folder = self.ask_folder("Look for missing files in") if missing else None
        if folder is not None:
            self.session.run(Relinking(self, missing, folder))

    def _say_missing(self) -> None:
        self.shelf.media.refresh(True)
        missing = self.missing_media()
        gone = {media.id for media in missing}
        # A matte is made again as long as what it was cut out of is there.
        again = [m for m in missing if m.cut_out is not None and m.cut_out.footage not in gone]
        remake(self, again)
        missing = [media for media in missing if media not in again]
        if missing:
            said = "One file is missing" if len(missing) == 1 else f"{len(missing)} files are missing"
            names = ", ".join(media.path for media in missing[:3]) + (" …" if len(missing) > 3 else "")
            self.offer(said, names, {"Find…": self.relink_missing, "Later": lambda: None})

    def _begin(self, lot: Importing | Relinking) -> None:
        self.session.run(lot)
