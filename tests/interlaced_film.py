"""A film of fields: a bar that goes on with each of them."""

from fractions import Fraction

import av
import numpy as np
from av import VideoFrame
from av.filter import Graph

WIDTH, HEIGHT, COUNT = 320, 180, 12


def moment(number):
    """(height, width) of a soft bright bar that goes 8 px with each field, 50 fields a second."""
    across = np.arange(WIDTH)[None, :]
    return np.repeat(np.clip(255 - 6 * np.abs(across - 40 - 8 * number), 16, 235).astype(np.uint8), HEIGHT, 0)


def grey(pixels):
    frame = VideoFrame(WIDTH, HEIGHT, "yuv420p")
    for plane, value in zip(frame.planes, (pixels, None, None), strict=True):
        rows = np.full((plane.height, plane.line_size), 128, np.uint8)
        if value is not None:
            rows[:, :WIDTH] = value
        plane.update(rows.tobytes())
    return frame


def write_fields(path):
    """MPEG-2 of 25 pictures a second, the upper field first."""
    graph = Graph()
    source = graph.add_buffer(
        width=WIDTH, height=HEIGHT, format=av.VideoFormat("yuv420p"), time_base=Fraction(1, 25)
    )
    marked, sink = graph.add("setfield", "mode=tff"), graph.add("buffersink")
    source.link_to(marked)
    marked.link_to(sink)
    graph.configure()
    with av.open(str(path), "w", format="mpeg") as container:
        options = {"flags": "+ilme+ildct", "b": "6000000"}
        stream = container.add_stream("mpeg2video", rate=25, options=options)
        stream.width, stream.height, stream.pix_fmt = WIDTH, HEIGHT, "yuv420p"
        for number in range(COUNT):
            rows = moment(2 * number)
            rows[1::2] = moment(2 * number + 1)[1::2]
            frame = grey(rows)
            frame.pts, frame.time_base = number, Fraction(1, 25)
            graph.push(frame)
            container.mux(stream.encode(graph.pull()))
        container.mux(stream.encode(None))
