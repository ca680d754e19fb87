"""Twenty samples in thirteen scripts: shaped as HarfBuzz shapes them, and nothing of them is cut."""

import numpy as np
import pytest
import uharfbuzz as hb

from rovix.demo.scripts import SAMPLES, contact_sheet
from rovix.model import Text
from rovix.model.consistency import inconsistencies
from rovix.motion import picture_plan
from rovix.paint.canvas import Canvas
from rovix.paint.glyphs import body_of, draw_glyphs, glyphs_region
from rovix.text import lay_out, match_face
from rovix.text.scripts import known_scripts, scripts_of, writes

SHEET = contact_sheet()


def test_there_are_twenty_samples_in_twelve_scripts_or_more():
    assert len(SAMPLES) == 20
    assert len({script for _, text in SAMPLES for script in scripts_of(text)}) >= 12
    assert set(scripts_of("".join(text for _, text in SAMPLES))) <= set(known_scripts())
    assert inconsistencies(SHEET) == []


def test_clusters_and_advances_are_harfbuzzs():
    compared = []
    for name, text in SAMPLES:
        layout = lay_out(Text(content=text, size=100.0))
        assert 0 not in layout.glyph, f"{name}: every letter has a glyph"
        if len(layout.faces) > 1 or len(set(layout.rising.tolist())) > 1 or any(c.isdigit() for c in text):
            continue  # HarfBuzz shapes one face and one direction at a time
        glyphs, clusters, advances = _shaped(layout.faces[0], text)
        assert layout.glyph.tolist() == glyphs, name
        assert layout.cluster.tolist() == clusters, name
        np.testing.assert_allclose(layout.advance, advances, atol=1e-6, err_msg=name)
        compared.append(name)
    assert len(compared) >= 16, compared


def _shaped(face, text):
    buffer = hb.Buffer()
    buffer.add_codepoints([ord(c) for c in text])
    buffer.guess_segment_properties()
    hb.shape(face.hb_font, buffer, {})
    scale = 100.0 / face.upem
    infos, positions = buffer.glyph_infos, buffer.glyph_positions
    return [i.codepoint for i in infos], [i.cluster for i in infos], [p.x_advance * scale for p in positions]


@pytest.mark.parametrize("number", range(len(SAMPLES)), ids=[name for name, _ in SAMPLES])
def test_nothing_of_a_sample_is_cut(number):
    plan = picture_plan(SHEET, 0)
    layer = next(layer for layer in plan.layers if layer.id == f"sample-{number}")
    body = body_of(layer, np.eye(3))
    region = glyphs_region(body, plan.size)
    canvas = Canvas(region.width, region.height, region.left, region.top)
    draw_glyphs(canvas, body, plan.size)
    alpha = canvas.pixels[..., 3]
    assert alpha.max() == 255
    for edge in (alpha[0], alpha[-1], alpha[:, 0], alpha[:, -1]):
        assert edge.max() <= 2, "the picture of the layer has room around all that it draws"


def test_faces_are_found_by_what_they_write():
    inter, mukta = (match_face(name, 700).face for name in ("Inter", "Mukta"))
    assert [writes(inter, script) for script in ("Latn", "Grek", "Cyrl", "Deva")] == [True, True, True, False]
    assert writes(mukta, "Deva")
    assert scripts_of("Kite שלום 12") == ["Latn", "Hebr"]
