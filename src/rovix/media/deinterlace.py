"""Whole pictures from fields: of two that were taken one after the other, the first is kept whole."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from fractions import Fraction

import av
from av import VideoFrame
from av.filter import Graph


def deinterlaced(frames: Iterable[VideoFrame], base: Fraction) -> Iterator[VideoFrame]:
    """Each picture, at its time, with the lines of its second field made from those around them.

    By FFmpeg's bwdif. It looks at the pictures before and after as well, so the first one given is a little
    rougher. Which field is first each frame says.
    """
    graph: Graph | None = None
    for frame in frames:
        if graph is None:
            graph = _graph(frame, base)
        frame.time_base = base
        graph.push(frame)
        yield from _made(graph)
    if graph is not None:
        graph.push(None)
        yield from _made(graph)


def _graph(frame: VideoFrame, base: Fraction) -> Graph:
    graph = Graph()
    source = graph.add_buffer(width=frame.width, height=frame.height, format=frame.format, time_base=base)
    whole, sink = graph.add("bwdif", "mode=send_frame:deint=all"), graph.add("buffersink")
    source.link_to(whole)
    whole.link_to(sink)
    graph.configure()
    return graph


def _made(graph: Graph) -> Iterator[VideoFrame]:
    while True:
        try:
            made = graph.pull()
        except (av.BlockingIOError, av.EOFError):
            return
        assert isinstance(made, VideoFrame)
        # It counts in half ticks, for those who want a picture for each field.
        made.pts = made.pts // 2 if made.pts is not None else None
        yield made
