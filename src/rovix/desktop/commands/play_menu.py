"""Play: transport, range, rehearse."""

from __future__ import annotations

from typing import TYPE_CHECKING

from rovix.desktop import making_proxies
from rovix.desktop.commands.command import Command, Run, layer
from rovix.desktop.projector import FULL_PLAYING
from rovix.desktop.rehearsal import rehearse_span
from rovix.edit.comparing import usable_kind
from rovix.time import Span

if TYPE_CHECKING:
    from rovix.desktop.frame import Frame


def _seek(step: int) -> Run:
    def run(window: Frame) -> None:
        window.projector.stop()
        window.document.seek(window.document.playhead + step)

    return run


def _go(edge: str) -> Run:
    def run(window: Frame) -> None:
        window.projector.stop()
        span = window.document.play_span
        window.document.seek(span.start if edge == "start" else span.end - 1)

    return run


def _play(window: Frame) -> None:
    if window.projector.playing:
        window.projector.stop()
    else:
        window.finish_typing()
        window.projector.play()


def _shuttle(way: int) -> Run:
    def run(window: Frame) -> None:
        player = window.projector.player
        speed = float(way)
        if window.projector.playing and player.speed * way > 0:
            speed = player.speed * 2 if abs(player.speed) < 8 else player.speed
        window.projector.stop()
        window.projector.play(speed=speed)

    return run


def _range(edge: str) -> Run:
    def run(window: Frame) -> None:
        document = window.document
        old = document.range or Span(0, document.length)
        frame = document.playhead
        if edge == "in":
            document.set_range(Span(frame, max(frame + 1, old.end)))
        else:
            document.set_range(Span(min(frame, old.start), frame + 1))

    return run


def _rehearse(window: Frame) -> None:
    span = rehearse_span(window.document)
    if span is not None and span.length:
        window.viewer.finish_words()
        window.projector.stop()
        window.document.seek(span.start)
        window.projector.play(span, loop=True)


def _comparison(window: Frame) -> None:
    """Begin a line-up of the move that is tuned, and play its part again and again; or end it."""
    comparison = window.viewer.comparison
    if comparison.on:
        comparison.end()
        return
    window.viewer.finish_words()
    window.shelf.stop_trying()
    tuned = window.document.tuned
    which = tuned.id if tuned else "entrance"
    if comparison.begin(which, usable_kind(window.document.clip, which, comparison.kind)):
        _rehearse(window)


def _turn_governor(window: Frame) -> None:
    """Draw pictures smaller while playing where they would come late, or let them come late."""
    projector = window.projector
    projector.stop()
    projector.governed = not projector.governed
    window.settings.setValue(FULL_PLAYING, not projector.governed)
    window.refresh_commands()


def _turn_proxies(window: Frame) -> None:
    window.proxies.turn()
    window.refresh_commands()


def _has_footage(window: Frame) -> bool:
    return bool(making_proxies.footage_of(window))


def _turn_audition(window: Frame) -> None:
    window.shelf.audition.turn()
    window.refresh_commands()


PLAY = (
    Command("play", "Play or pause", "Play", "Space", _play),
    Command("back", "Play backwards, again for faster", "Play", "J", _shuttle(-1)),
    Command("pause", "Pause", "Play", "K", lambda w: w.projector.stop()),
    Command("forward", "Play forwards, again for faster", "Play", "L", _shuttle(1)),
    Command("rehearse", "Rehearse the move", "Play", "R", _rehearse, layer),
    Command("full-playing", "Always full pictures while playing", "Play", "", _turn_governor,
            checked=lambda w: not w.projector.governed),
    Command("proxies-half", "Make proxies at half size", "Play", "", lambda w: making_proxies.make(w, 2), _has_footage,
            under="Proxies"),
    Command("proxies-quarter", "Make proxies at quarter size", "Play", "", lambda w: making_proxies.make(w, 4), _has_footage,
            under="Proxies"),
    Command("proxies-show", "Show proxies", "Play", "", _turn_proxies, lambda w: bool(w.proxies),
            checked=lambda w: w.proxies.on, under="Proxies"),
    Command("proxies-delete", "Delete proxies", "Play", "", making_proxies.remove, lambda w: bool(w.proxies),
            under="Proxies"),
    Command("audition", "Hovered cards play in the picture", "Play", "", _turn_audition,
            checked=lambda w: w.shelf.audition.wanted),
    Command("compare", "Compare curves, moves or lengths", "Play", "Ctrl+Shift+L", _comparison, layer,
            checked=lambda w: w.viewer.comparison.on),
    Command("go-to", "Go to a frame or time", "Play", "Alt+G", lambda w: w.transport.begin_typing(), under="Go"),
    Command("previous-frame", "One frame back", "Play", "Left", _seek(-1), under="Go"),
    Command("next-frame", "One frame on", "Play", "Right", _seek(1), under="Go"),
    Command("back-10", "Ten frames back", "Play", "Shift+Left", _seek(-10), under="Go"),
    Command("on-10", "Ten frames on", "Play", "Shift+Right", _seek(10), under="Go"),
    Command("to-start", "To the start", "Play", "Home", _go("start"), under="Go"),
    Command("to-end", "To the end", "Play", "End", _go("end"), under="Go"),
    Command("range-in", "Set the in point", "Play", "I", _range("in"), under="Range"),
    Command("range-out", "Set the out point", "Play", "O", _range("out"), under="Range"),
    Command("range-clear", "Clear the range", "Play", "Alt+X", lambda w: w.document.set_range(None),
            lambda w: w.document.range is not None, under="Range"),
)  # fmt: skip
