"""Proxies of a project's footage made, one after the other."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from rovix.engine.proxy_files import Made, Wanted, proxy_folder, proxy_name, remove_proxies
from rovix.errors import RovixError
from rovix.formats import replacing
from rovix.media.proxy import proxy_size, write_proxy
from rovix.model import Media
from rovix.time import Rate

Progress = Callable[[int, int], None]


def make_proxies(wanted: list[Wanted], progress: Progress, part: Callable[[Any], None]) -> Made:
    """Make proxies one after the other; one that cannot be made does not keep the others from it.

    `part` gets the id of the media as each is there. A proxy of another share is let go for it.
    """
    counts = [_usual_count(one.media) for one in wanted]
    done, count, size, refused = 0, 0, 0, []
    for one, usual in zip(wanted, counts, strict=True):
        before = done

        def far(written: int, before: int = before, usual: int = usual) -> None:
            progress(before + min(written, usual), sum(counts))

        try:
            size += _make(one, far)
            count += 1
            part(one.media.id)
        except RovixError as wrong:
            refused.append(str(wrong))
        done = before + usual
    return Made(count, size, tuple(refused))


def _make(one: Wanted, far: Callable[[int], None]) -> int:
    assert one.media.width is not None
    assert one.media.height is not None
    out = one.folder / proxy_name(one.media, one.share)
    size = proxy_size((one.media.width, one.media.height), one.share)
    try:
        out.parent.mkdir(parents=True, exist_ok=True)
        with replacing(out) as part:
            write_proxy(one.source, part, size, one.media.interlaced and one.media.deinterlaced, far)
        bytes_ = out.stat().st_size
    except OSError as wrong:
        raise RovixError(
            f"The proxy of {one.media.title} could not be written to {out.parent}: {wrong.strerror}."
        ) from wrong
    remove_proxies([one.media], (one.folder, proxy_folder(None)), but=one.share)
    return bytes_


def _usual_count(media: Media) -> int:
    """About how many pictures footage has; at least 1."""
    return max(1, Rate(media.rate or 25).frames(media.length or 0.0))
