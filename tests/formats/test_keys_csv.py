"""Keys as CSV (RFC 4180), there and back, and what is wrong with a table."""

import csv
import io

import pytest
from hypothesis import given
from hypothesis import strategies as st

from builders import look_of, project_of, title
from rovix.edit.address import channels_of, put_held
from rovix.edit.key_clips import copied_keys, paste_keys
from rovix.edit.keys import all_keys
from rovix.edit.tree import clip_of
from rovix.errors import RovixError
from rovix.formats.keys_csv import COLUMNS, keys_csv, parse_keys_csv
from rovix.model import ColourKey, ColourKeys, Key, Keys, MotionPath, Outline, PathKey
from rovix.time import Rate

CURVES = st.sampled_from(
    ["linear", "hold", "cubic-bezier(0.2, 1.9, 0.4, 1)", "spring(mass 1 stiffness 170 damping 17)"]
)
NUMBERS = st.floats(-1e6, 1e6)
ENDS = st.none() | st.tuples(st.floats(0, 1e4), NUMBERS)
FRAMES = st.lists(st.integers(-500, 5000), min_size=1, max_size=8, unique=True).map(sorted)


@st.composite
def channels(draw):
    """Keys of a number, a colour and a path."""
    number = Keys(id="k", keys=tuple(
        Key(frame=f, value=draw(NUMBERS), curve=draw(CURVES), before=draw(ENDS), after=draw(ENDS))
        for f in draw(FRAMES)
    ))  # fmt: skip
    colour = ColourKeys(id="c", keys=tuple(
        ColourKey(frame=f, value=draw(st.sampled_from(["#102030", "#fff8ea80"])), curve=draw(CURVES)) for f in draw(FRAMES)
    ))  # fmt: skip
    path = MotionPath(id="p", keys=tuple(
        PathKey(frame=f, x=draw(NUMBERS), y=draw(NUMBERS), curve=draw(CURVES), after=draw(st.none() | st.tuples(NUMBERS, NUMBERS)))
        for f in draw(FRAMES)
    ))  # fmt: skip
    return {"transform.rotation_z": number, "look.parts.o.colour": colour, "transform.path": path}


def given_channels(held):
    look = look_of("#ffffff", Outline(id="o"))
    return put_held(project_of(title("Kite", 200, look=look)), "title", held)


def bare(held):
    return [(type(key).__name__, key.frame, key.curve, getattr(key, "value", None), getattr(key, "x", None),
             getattr(key, "before", None), getattr(key, "after", None)) for key in held.keys]  # fmt: skip


@given(channels())
def test_there_and_back_every_key_is_the_same(held):
    project = given_channels(held)
    clip = clip_of(project, "title")
    copied, first = copied_keys(clip, all_keys(clip)), min(f for own in all_keys(clip).values() for f in own)
    text = keys_csv(copied, first, Rate(30))
    again, at = parse_keys_csv(text)
    assert at == first
    made, _ = paste_keys(given_channels({}), "title", again, at)
    found = channels_of(clip_of(made, "title"))
    assert {name: bare(found[name]) for name in held} == {name: bare(own) for name, own in held.items()}
    # Python's own reader of RFC 4180 finds as many rows, all of the head's length.
    rows = list(csv.reader(io.StringIO(text)))
    assert {len(row) for row in rows} == {len(COLUMNS)}
    assert text.count("\r\n") == len(rows)


@pytest.mark.parametrize("text", [
    "channel,frame,value\ntransform.x,0,-40.5\ntransform.x,12,0\n",
    "\ufeffframe;channel;value\r\n0;transform.x;-40,5\r\n12;transform.x;0\r\n",
    "value\tframe\tchannel\tremark\n-40.5\t0\ttransform.x\tfar\n0\t12\ttransform.x\t\n\t\t\t\n",
    'channel,frame,value,curve\n"transform.x",0,-40.5,"cubic-out"\n"transform.x",12,0,\n',
])  # fmt: skip
def test_other_separators_orders_marks_and_missing_columns_are_read(text):
    copied, first = parse_keys_csv(text)
    assert first == 0
    assert [(key.frame, key.value) for key in copied.channels["transform.x"].keys] == [(0, -40.5), (12, 0.0)]


@pytest.mark.parametrize(("rows", "said"), [
    ("", "no keys"),
    ("transform.x,0,far", "Row 2: 'far' under value is no number"),
    ("transform.x,1.5,3", "Row 2: it needs a channel, and a whole frame"),
    (",1,3", "Row 2: it needs a channel"),
    ("transform.x,1,", "Row 2: it has no value"),
    ("transform.x,1,nan", "Row 2"),
    ("transform.x,nan,1", "Row 2: 'nan' under frame"),
    ("transform.x,inf,1", "Row 2: 'inf' under frame"),
    ("transform.x,1,1e300", "Row 2"),
    ("transform.x,1,#12", "Row 2"),
    ("transform.x,1,2\ntransform.x,1,3", "Two keys of 'transform.x' are on frame 1"),
    ("transform.x,1,2\ntransform.x,2,#102030", "not of one kind"),
    ('transform.x,1,"2', "no CSV"),
])  # fmt: skip
def test_what_is_wrong_is_said_with_its_row(rows, said):
    with pytest.raises(RovixError, match=said):
        parse_keys_csv(f"channel,frame,value\n{rows}\n")


def test_a_table_of_something_else_is_refused():
    with pytest.raises(RovixError, match="no column 'channel'"):
        parse_keys_csv("name,age\nJo,3\n")
