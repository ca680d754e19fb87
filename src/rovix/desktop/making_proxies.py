"""Making proxies of footage beside editing, and deleting them."""

from __future__ import annotations

from typing import TYPE_CHECKING

from rovix.desktop.long_work import LongWork
from rovix.edit.tree import clip_by_id
from rovix.engine.proxy_files import SHARES, Made, Wanted, can_have, proxy_folder, remove_proxies
from rovix.model import FootageClip, Media

if TYPE_CHECKING:
    from rovix.desktop.frame import Frame

_WORK = "rovix.engine.proxies:make_proxies"


def footage_of(window: Frame) -> list[Media]:
    """The footage of the selected clips; of the whole project where none is selected."""
    document = window.document
    clips = (clip_by_id(document.project, identity) for identity in document.selection)
    chosen = {clip.media for clip in clips if isinstance(clip, FootageClip)}
    return [m for m in document.whole.media if can_have(m) and (not chosen or m.id in chosen)]


def make(window: Frame, share: int, media: list[Media] | None = None) -> None:
    """Make proxies of footage at a share of its size, of what is selected where none is said."""
    document = window.document
    asked = [m for m in (footage_of(window) if media is None else media) if can_have(m)]
    lacking = [m for m in asked if window.proxies.share_of(m.id) != share]
    if not lacking:
        said = f"These proxies at {SHARES[share]} size are there." if asked else "There is no footage."
        window.say(said)
        return
    folder = proxy_folder(document.path)
    wanted = [Wanted(m, document.base / m.path, share, folder) for m in lacking]
    title = f"Making a proxy of {lacking[0].title}" if len(lacking) == 1 else f"Making {len(lacking)} proxies"

    def done(made: Made) -> None:
        _tell(window, made)

    work = LongWork(window, title, (_WORK, wanted), done, lambda _: window.proxies.look())
    window.session.run(work)


def _tell(window: Frame, made: Made) -> None:
    from rovix.desktop.dialogs.weight import in_words  # which knows of exports, as nothing at the start does

    window.proxies.look()
    if made.count:
        several = "One proxy" if made.count == 1 else f"{made.count} proxies"
        window.say(f"{several} made, {in_words(made.bytes)}. Exports are made from the footage itself.")
    for refused in made.refused:
        window.document.problem.emit(refused)


def remove(window: Frame) -> None:
    """Delete the proxies of the footage that is selected, of all where none is."""
    from rovix.desktop.dialogs.weight import in_words

    document = window.document
    folders = (proxy_folder(document.path), proxy_folder(None))
    try:
        freed = remove_proxies(footage_of(window), folders)
    finally:
        window.proxies.look()
    window.say(f"Proxies deleted, {in_words(freed)} freed." if freed else "There are no proxies of it.")
