"""What becomes of a mutant: refused with one sentence, or accepted and then usable. Anything else fails."""

from __future__ import annotations

import re
from contextlib import suppress
from fractions import Fraction
from multiprocessing.connection import Connection
from pathlib import Path

from rovix.engine.open_project import OpenProject
from rovix.errors import RovixError
from rovix.formats.look_file import parse_look
from rovix.formats.move_file import MOVES
from rovix.formats.project_file import parse_project, project_bytes
from rovix.media.apart import apart
from rovix.media.mix import Mixer
from rovix.media.probe import probe
from rovix.media.sound import SoundFile
from rovix.media.stills import decode_still
from rovix.media.video import VideoReader
from rovix.model import Look, Move, Project, Sequence, Text, TextClip, Track
from rovix.motion import describe
from rovix.text.face import FaceKey, face
from rovix.time import Span

SIZE = (96, 54)
REFUSED, ACCEPTED = "refused", "accepted"


def trial(kind: str, name: str, content: bytes, folder: Path) -> str:
    """What became of it, or the reason why that is a fault."""
    try:
        _TRIALS[kind](name, content, folder)
    except RovixError as wrong:
        return REFUSED if _is_sentence(str(wrong)) else f"no sentence: {wrong!r}"
    except MemoryError:
        return "out of memory"
    except Exception as wrong:
        return f"{type(wrong).__name__}: {wrong}"
    return ACCEPTED


def _is_sentence(text: str) -> bool:
    last = text.strip().split("\n")[-1]
    return bool(re.search(r"\w", last)) and last.endswith(".") and "Traceback" not in text


def _project(name: str, content: bytes, folder: Path) -> None:
    project = parse_project(Path(name), content)
    _use(project, folder)
    again = parse_project(Path(name), project_bytes(project))
    assert again == project, "it opens otherwise than it was saved"


def _use(project: Project, folder: Path) -> None:
    length = project.sequence.length
    with OpenProject(project, folder) as opened:
        for frame in sorted({0, min(20, max(0, length - 1)), max(0, length // 2)}):
            describe(project, frame)
            with suppress(RovixError):  # media that are not there; the sentence is checked elsewhere
                opened.picture(frame, SIZE)
    Mixer(project.sequence, lambda _: None, project.sequences).mix(Span(0, min(20, length)))


def _with(words: str = "Kite day", **fields: object) -> Project:
    clip = TextClip(id="t", length=60, text=Text(content=words, size=60.0), **fields)  # type: ignore[arg-type]
    return Project(
        id="p", sequences=(Sequence(id="s", size=(640, 360), tracks=(Track(id="k", clips=(clip,)),)),)
    )


def _move(name: str, content: bytes, folder: Path) -> None:
    move: Move = MOVES.parse(name, content).move
    _use(_with(moves=(move,)), folder)
    MOVES.parse(name, MOVES.bytes_of(MOVES.parse(name, content)))


def _look(name: str, content: bytes, folder: Path) -> None:
    look: Look = parse_look(name, content).look
    _use(_with(look=look), folder)


def _media(name: str, content: bytes, folder: Path) -> None:
    path = folder / name
    path.write_bytes(content)
    media = probe(path, folder)
    apart(use_media, path, media.kind, media.length or 0.0, seconds=9)


def use_media(path: Path, kind: str, length: float) -> int:
    """Read a file as the drawing processes and the mixer would."""
    if kind == "still":
        return int(decode_still(path).size)
    if kind == "footage":
        reader = VideoReader(path)
        for share in (0, 1, Fraction(1, 2)):
            reader.picture(Fraction(min(length, 1e6)) * share)
        reader.close()
        return 1
    file = SoundFile(path)
    file.read(0, 48_000)
    file.read(max(0, len(file) - 48_000), len(file))
    file.close()
    return 1


def _font(name: str, content: bytes, folder: Path) -> None:
    path = folder / f"{abs(hash(content))}-{name}"
    path.write_bytes(content)
    try:
        apart(use_font, path, seconds=9)
    finally:
        path.unlink()


def use_font(path: Path) -> int:
    """Shape and outline some letters with a font file."""
    made = face(FaceKey(str(path)))
    return sum(len(made.outline(glyph).points) for glyph in range(40))


def work(connection: Connection, folder: Path) -> None:
    """Try what comes until the pipe closes."""
    try:
        while True:
            kind, name, content = connection.recv()
            connection.send(trial(kind, name, content, folder))
    except (EOFError, OSError):
        return


_TRIALS = {"project": _project, "move": _move, "look": _look, "media": _media, "font": _font}
