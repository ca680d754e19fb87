"""Files of captions: read as the standard and two other readers read them, written so that these read them."""

from __future__ import annotations

import pysubs2
import pytest
import webvtt
from hypothesis import given
from hypothesis import strategies as st

from rovix.exchange import CAPTION_FORMATS
from rovix.exchange.captions import CaptionError, Cue, CueStyle, decoded, read_captions

VTT, SRT = CAPTION_FORMATS[".vtt"], CAPTION_FORMATS[".srt"]

WEBVTT = """WEBVTT - made for this test

STYLE
::cue { color: lime }

NOTE a remark
over two lines

first
00:01.000 --> 00:03.500 line:10% position:25%,center align:start
Kites <i>rise</i> over <c.yellow>Larkmoor</c>
at &amp; after noon

00:00:04.000 --> 00:00:06.250 line:-2
<00:04.000>One <00:04.500>two <00:05.000>three

00:00:07.000 --> 00:00:06.000
backwards
"""
SUBRIP = """1
00:00:01,000 --> 00:00:02,500
First <b>line</b>
second <font color="#ff8800">line</font>

2
00:00:03,000 --> 00:00:04,000
{\\an8}Up there

3
00:00:05,000 --> 00:00:06,000

12 kites
"""


def test_webvtt_is_read_with_settings_styles_and_times():
    # W3C WebVTT, sections 4.3 (settings), 4.2.2 (cue text), 5 (default classes of colour).
    found = VTT.read(WEBVTT)
    first, second = found.cues
    assert (first.start, first.end, first.text) == (1.0, 3.5, "Kites rise over Larkmoor\nat & after noon")
    assert (first.down, first.across, first.align) == (0.1, 0.25, "left")
    assert first.styles == (CueStyle(6, 10, italic=True), CueStyle(16, 24, colour="#ffff00"))
    assert second.text == "One two three"
    assert second.times == ((0, 4.0), (4, 4.5), (8, 5.0))
    assert second.down == pytest.approx((15 - 2 + 0.5) / 15)
    assert any("STYLE" in told for told in found.told)
    assert any("without time" in told for told in found.told)


def test_srt_is_read_with_its_tags_and_a_cue_that_is_a_number():
    found = SRT.read(SUBRIP)
    assert [cue.text for cue in found.cues] == ["First line\nsecond line", "Up there", "12 kites"]
    assert found.cues[0].styles == (CueStyle(6, 10, bold=True), CueStyle(18, 22, colour="#ff8800"))
    assert any("braces" in told for told in found.told)


words = st.text(alphabet="abc ÄÖ日本,.&<>'\"-", min_size=1, max_size=30).filter(
    lambda t: t.strip() and "-->" not in t
)
moments = st.integers(0, 3_600_000)


@st.composite
def cues(draw):
    made, at = [], 0
    for _ in range(draw(st.integers(1, 6))):
        at += draw(st.integers(1, 5000))
        end = at + draw(st.integers(1, 8000))
        text = " ".join(draw(words).split())
        made.append(Cue(at / 1000, end / 1000, text))
        at = end
    return tuple(made)


@given(cues())
def test_webvtt_that_is_written_comes_back_and_reads_the_same_elsewhere(made):
    text = VTT.write(made)
    assert VTT.read(text).cues == made
    other = webvtt.from_string(text)
    assert [c.start_in_seconds for c in other] == [int(cue.start) for cue in made]
    assert len(other) == len(made)


@given(cues())
def test_srt_that_is_written_comes_back_and_reads_the_same_elsewhere(made):
    made = tuple(c for c in made if "<" not in c.text and ">" not in c.text and "&" not in c.text) or (
        Cue(1, 2, "a"),
    )
    text = SRT.write(made)
    assert SRT.read(text).cues == made
    other = pysubs2.SSAFile.from_string(text, format_="srt")
    assert [(event.start, event.end) for event in other] == [
        (round(cue.start * 1000), round(cue.end * 1000)) for cue in made
    ]
    assert [event.plaintext for event in other] == [cue.text for cue in made]


def test_both_readers_agree_with_pysubs2_on_files_with_styles():
    for known, text, name in ((SRT, SUBRIP, "srt"), (VTT, WEBVTT, "vtt")):
        ours = [(round(c.start * 1000), round(c.end * 1000)) for c in known.read(text).cues]
        theirs = [
            (e.start, e.end) for e in pysubs2.SSAFile.from_string(text, format_=name) if e.plaintext.strip()
        ]
        assert [pair for pair in theirs if pair[0] < pair[1]] == ours


@pytest.mark.parametrize("encoding", ["utf-8", "utf-8-sig", "utf-16", "cp1252", "cp1251", "shift_jis"])
def test_what_a_file_is_written_in_is_found_out(tmp_path, encoding):
    words = {
        "cp1251": "Воздушные змеи поднимаются над холмом, и весь день дует ветер с моря",
        "shift_jis": "凧が丘の上に上がり、一日中風が吹いています。みんなで見に行きましょう。",
    }.get(encoding, "Über dem Hügel steigen Drachen, und den ganzen Tag weht der Wind übers Meer")
    path = tmp_path / "a.srt"
    path.write_bytes(f"1\n00:00:01,000 --> 00:00:02,000\n{words}\n".encode(encoding))
    assert read_captions(path, CAPTION_FORMATS).cues[0].text == words


def test_an_encoding_that_is_said_is_taken(tmp_path):
    path = tmp_path / "a.srt"
    path.write_bytes("1\n00:00:01,000 --> 00:00:02,000\nŁódź\n".encode("cp1250"))
    assert read_captions(path, CAPTION_FORMATS, "cp1250").cues[0].text == "Łódź"
    with pytest.raises(CaptionError, match="not written in"):
        decoded(b"\xff\xfe\xff", "utf-8")


@pytest.mark.parametrize(
    ("name", "data", "why"),
    [
        ("a.txt", b"hello", "no file of captions"), ("a.vtt", b"hello", "begins with the word"),
        ("a.srt", b"hello", "no line with times"), ("a.vtt", b"WEBVTT\n", "holds no captions"),
        ("a.srt", b"\x00\x01\xfe\x00", "no text"), ("gone.srt", None, "could not be opened"),
    ],
)  # fmt: skip
def test_what_holds_no_captions_is_refused_by_name_and_reason(tmp_path, name, data, why):
    path = tmp_path / name
    if data is not None:
        path.write_bytes(data)
    with pytest.raises(CaptionError, match=why) as refused:
        read_captions(path, CAPTION_FORMATS)
    assert name in str(refused.value)


@given(st.binary(max_size=400), st.sampled_from([".srt", ".vtt"]))
def test_any_bytes_are_read_or_refused(tmp_path_factory, data, suffix):
    path = tmp_path_factory.mktemp("any") / f"a{suffix}"
    path.write_bytes(b"WEBVTT\n\n00:01.000 --> 00:02.000\n" + data if suffix == ".vtt" else data)
    try:
        found = read_captions(path, CAPTION_FORMATS)
    except CaptionError:
        return
    assert all(cue.end > cue.start and cue.text for cue in found.cues)
