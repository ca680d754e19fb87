"""Which part of the selected layer is rehearsed, and over which span."""

from __future__ import annotations

from rovix.desktop.document import Document
from rovix.edit import move_of
from rovix.model.clip_kinds import is_layer
from rovix.motion import clip_spans
from rovix.time import Span

_RUN_UP = 0.5  # seconds


def rehearsed_part(document: Document) -> str | None:
    """The entrance, loop or exit at the playhead, else the layer; None without a layer."""
    clip = document.clip
    if not is_layer(clip):
        return None
    spans, run_up = clip_spans(clip, document.rate), document.rate.frames(_RUN_UP)
    local = document.playhead - clip.start
    if spans.exit and local > clip.length - 1 - spans.exit - run_up:
        return "exit"
    if spans.entrance and local <= spans.entrance + run_up:
        return "entrance"
    return "loop" if move_of(clip, "loop") else "layer"


def rehearse_span(document: Document) -> Span | None:
    """That part with half a second of run-up; the layer is its whole clip."""
    return span_of_part(document, rehearsed_part(document))


def span_of_part(document: Document, part: str | None) -> Span | None:
    """The span of the selected layer's entrance, loop, exit or of all of it, with its run-up."""
    clip = document.clip
    if not is_layer(clip) or part is None:
        return None
    spans, run_up = clip_spans(clip, document.rate), document.rate.frames(_RUN_UP)
    leaves = clip.span.end - spans.exit
    span = {
        "entrance": Span(max(0, clip.start - run_up // 2), clip.start + spans.entrance + run_up),
        "loop": Span(max(0, clip.start + spans.entrance - run_up), leaves + run_up),
        "exit": Span(max(0, leaves - run_up), clip.span.end + run_up // 2),
        "layer": clip.span,
    }[part]
    return span.clipped(Span(0, document.length))
