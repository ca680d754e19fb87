"""The colours that a project names."""

from __future__ import annotations

from builders import look_of, project_of, title
from rovix.model import ColourKey, ColourKeys, Outline
from rovix.model.colours_used import used_colours


def test_colours_of_looks_styles_and_keys_are_found_the_commonest_first():
    keys = ColourKeys(keys=(ColourKey(frame=0, value="#AA0000"), ColourKey(frame=9, value="#00aa00")))
    project = project_of(
        title("Kite", id="a", look=look_of("#123456", Outline(id="o", colour="#123456"))),
        title("Wind", id="b", look=look_of(keys), name="#abcdef"),
    )
    found = used_colours(project)
    assert found[0] == "#123456"
    assert {"#aa0000", "#00aa00", "#000000"} <= set(found)
    assert "#abcdef" not in found, "a name is no colour"
