"""Words that people who cut videos use, each with at least one good answer among the first eight found.

Common practice, no source: the words are the trade's, what they are to find is called as it is here.
"""

from __future__ import annotations

import pytest

from builders import project_of, title
from rovix.desktop.findables import findables
from rovix.desktop.searching import found
from rovix.model import FootageClip, Media
from rovix.motion.ready_moves import pop, rise_and_fade

WORDS = {
    # text
    "text": "words at the playhead", "title": "words at the playhead", "caption": "caption box", "subtitle": "words at the playhead",
    "lower third": "box round the layer", "font": "typeface", "typeface": "typeface", "bold": "weight", "italic": "italic",
    "weight": "weight", "font size": "size", "kerning": "tracking", "tracking": "tracking", "letter spacing": "tracking",
    "leading": "leading", "line spacing": "leading", "line height": "leading", "justify": "align", "alignment": "align",
    "uppercase": "case", "capitals": "case", "small caps": "case", "ligatures": "ligatures", "wrap": "lines",
    "paragraph": "paragraph", "replace text": "find and replace", "spelling": "find and replace",
    # look
    "stroke": "outline", "border": "outline", "outline": "outline", "drop shadow": "shadow", "shadow": "shadow",
    "long shadow": "long shadow", "glow": "glow", "neon": "glow", "fill": "fill", "gradient": "gradient background",
    "colour": "colour", "color": "colour", "background": "plain background", "box": "box", "opacity": "opacity",
    "transparency": "opacity", "alpha": "opacity", "style": "style of new text", "preset": "show the looks",
    "theme": "show the looks", "template": "show the looks",
    # motion
    "animation": "show the entrances", "animate": "show the entrances", "entrance": "show the entrances", "intro": "show the entrances",
    "exit": "show the exits", "outro": "show the exits", "loop": "show the loops", "in and out": "show the entrances",
    "keyframe": "set or take away keys", "key": "set or take away keys", "ease": "curve ease", "easing": "choose the curve",
    "ease in": "curve ease-in", "ease out": "curve ease-out", "bezier": "curve", "graph editor": "lanes", "curves": "choose the curve",
    "bounce": "bounce", "elastic": "elastic", "spring": "spring", "overshoot": "back-out", "anticipation": "back-in",
    "typewriter": "typed", "type on": "typed", "cursor": "caret", "fade": "fade in", "fade in": "fade in", "fade out": "fade",
    "slide": "from the left", "slide in": "from the left", "pop": "pop", "zoom": "grow", "scale up": "grow", "spin": "whirl", "rotate": "rotation",
    "flip": "cards turned", "fly in": "from far off", "fly": "from far off", "drop": "fall and settle", "roll": "roll up",
    "scroll": "reel", "crawl": "crawl left", "ticker": "crawl left", "credits": "roll up", "pulse": "two beats", "heartbeat": "two beats",
    "wiggle": "shiver", "shake": "shaken in", "jitter": "shiver", "glitch": "glitch", "flicker": "flicker", "blink": "wink",
    "swing": "sway", "wave": "wave", "float": "bob", "reveal": "uncover", "wipe": "wipe", "mask": "mask", "crop": "crop",
    "blur in": "come sharp", "blur": "blur", "motion blur": "motion blur", "echo": "echo trail", "trail": "echo trail",
    "stagger": "stagger", "delay": "stagger", "offset": "wrap-around", "per letter": "letters", "per word": "words",
    "random": "order", "counter": "count up", "count": "count up", "numbers": "count up", "speed": "speed", "duration": "length", "timing": "length",
    "hold": "hold", "freeze": "freeze", "reverse": "reversed", "repeat": "repeat", "path": "motion path", "follow path": "move along a path",
    "anchor point": "pivot", "pivot": "pivot", "position": "position", "scale": "scale", "rotation": "rotation", "skew": "slant",
    "3d": "position z", "depth": "out of depth", "perspective": "rotation x", "parent": "follow", "ken burns": "drift", "push in": "drift",
    # cutting and window
    "cut": "split", "razor": "split", "split": "split", "trim": "trim", "ripple delete": "close the gap", "duplicate": "duplicate",
    "group": "group", "nest": "group", "precomp": "group", "lock": "lock", "hide": "hide", "mute": "mute", "solo": "hear only",
    "marker": "marker", "snap": "snap", "guides": "guides", "grid": "guides", "ruler": "guides", "safe area": "safe areas", "title safe": "safe areas",
    "render": "export", "export": "export", "save": "save", "undo": "undo", "import": "import", "transition": "transition", "crossfade": "dissolve",
    "dissolve": "dissolve", "dip to black": "dip", "slow motion": "speed", "speed ramp": "speed", "volume": "gain", "audio": "sound", "music": "import",
    "sound effect": "sound", "whoosh": "sound with the speed", "pan": "pan", "frame rate": "size, rate", "fps": "size, rate", "resolution": "size, rate", "aspect ratio": "size, rate",
    "copy effects": "paste attributes", "paste effects": "paste attributes", "preview": "rehearse", "play": "play", "full screen": "fit the picture",
    "shortcut": "shortcuts", "hotkeys": "shortcuts", "blend mode": "blend", "multiply": "blend", "screen": "blend", "add mode": "blend",
    "grain": "grain", "saturation": "tone", "brightness": "tone", "contrast": "tone", "align": "align", "distribute": "even gaps", "center": "in the middle",
}  # fmt: skip
MORE = {
    "captions": "caption box",
    "subtitles": "words at the playhead",
    "typing": "typed",
    "strobe": "flicker",
    "unlock": "lock or unlock",
    "mirror": "mirror",
    "spin in": "whirl",
    "zoom blur": "blur",
    "parallax": "out of depth",
    "snapping": "snap",
    "lower thirds": "box round",
    "text colour": "letters' colour",
    "rewind": "play backwards",
    "end credits": "reel",
    "erase": "remove",
    "close gap": "close the gap",
    "text alignment": "align",
    "dolly": "position z",
    "bevel": "corner",
    "drop cap": "size",
    "stutter": "hold",
    "squash": "press flat",
    "vignette": "tone",
    "hide track": "hide",
    "stop motion": "hold",
    "slow down": "speed",
    "speed up": "speed",
    "bigger": "scale",
    "letterbox": "size, rate",
    "voice over": "import",
    "text layer": "words at the playhead",
    "bold text": "weight",
    "slide out": "to the left",
    "fly out": "into the distance",
    "wipe out": "wipe",
    "curved path": "path",
    "bouncing": "bounce",
    "slow zoom": "grow",
    "text animation": "show the entrances",
    "letter animation": "letters",
    "shadow colour": "shadow",
    "gradient text": "gradient",
    "blurred": "blur",
    "noise texture": "grain",
    "crossfades": "dissolve",
    "trim clip": "trim",
    "export video": "export",
    "save a copy": "save as",
    "audio volume": "gain",
    "centre text": "align",
    "text spacing": "tracking",
    "rotate text": "rotation",
    "delay start": "stagger",
    "reverse animation": "revers",
    "jiggle": "shiver",
    "hinge": "sign",
    "kinetic typography": "show the entrances",
    "motion graphics": "show the entrances",
    "ease both": "ease-in-out",
    "lighting": "light",
    "make title": "words at the playhead",
    "animate words": "show the entrances",
    "slide from right": "from the right",
    "text outline": "outline",
    "spin letters": "whirl",
    "pop words": "words pop",
    "soft shadow": "shadow",
    "cut here": "split",
    "make longer": "length",
    "insert text": "words at the playhead",
    "typing speed": "typed",
    "wave text": "wave",
    "shake effect": "shaken in",
    "glow effect": "glow",
    "blur text": "blur",
    "loop text": "loop",
    "rename layer": "rename",
    "mute track": "mute",
    "lock track": "lock or unlock",
    "play from start": "play",
    "colour of text": "letters' colour",
    "line thickness": "outline",
    "letter size": "size",
    "ungroup layers": "ungroup",
    "dim": "opacity",
    "hover effect": "bob",
    "domino effect": "stagger",
    "spotlight": "glow",
    "crossfade audio": "fade",
    "storyboard": "sequence",
    "swing in": "hung sign|sway",
    "tumble": "whirl|sign|letters fall",
    "spiral in": "whirl",
    "grow in": "grow",
    "flicker on": "lights|struck|flicker",
    "light leak": "glow|glimmer|blend",
    "slam down": "stamp|pop|fall",
    "ease into": "ease",
    "hard cut": "split|transition: cut",
    "soft edge": "feather|blur",
    "text size": "size",
    "blinking text": "flicker|wink",
    "line drawing": "line",
    "shadow blur": "shadow|blur",
    "split letters": "part|letters",
    "glitchy": "glitch|shaken",
    "retro look": "looks|glitch|long shadow",
    "bold outline": "outline",
    "credits scroll": "reel|page after|run",
    "fade both": "fade",
    "smoother": "smooth",
    "reveal from left": "from the left|wipe|uncover",
    "number counter": "count up",
    "sound volume": "gain",
    "export settings": "export",
    "zoom timeline": "timeline",
    "undo last": "undo",
    "copy keyframes": "copy|paste attributes|keys",
    "align centre": "in the middle|align",
    "speed curve": "speed|curve",
    "lean in": "lean",
    "rolling text": "reel|run round|wheel",
    "fade letters": "fade|letters",
    "drop letters": "letters fall|letters rain|fall",
    "elastic scale": "elastic|scale|spring",
    "wiggle position": "shiver|position|restless",
    "blur transition": "blur|transition",
    "zoom through": "lens|out of depth|grow",
    "ink": "letters' colour|fill|paper",
    "comic": "looks|outline|pop",
    "pixel": "actual size|px|position",
    "crossing": "run round|transition|reel",
    "repeat loop": "repeat|rehearse|loop",
    "text behind": "track|behind|move to the track",
    "duplicate effect": "duplicate|echo",
    "letter gap": "tracking|stagger",
    "word gap": "tracking|stagger|words",
    "hold position": "hold|position",
    "smooth keyframes": "smooth",
    "delete keyframes": "remove the keys",
    "next marker": "next marker",
    "fit to screen": "fit the picture",
    "full size": "actual size|size",
    "safe margins": "safe areas",
    "snap off": "snap",
    "new folder": "group|new",
    "save project": "save",
    "open recent": "open",
    "render video": "export",
    "colour picker": "colour",
    "text shadow": "shadow",
    "rise up slowly": "rise|up from below|drift",
    "spell it out": "typed|letter by letter|word by word",
    "rubber stamp": "stamp",
    "sign off": "exit|lights off|sign falls",
    "roll in": "reel|whirl|wheel",
    "peek": "slot|uncover|slit",
    "flutter": "flicker|shiver|restless|sway",
    "drip": "letters fall|rain|drop",
    "squeeze in": "wide and narrow|wide to true|press flat|grow",
    "headline font": "typeface|typeface…|caption",
    "outline width": "outline",
    "round corners": "corner|rounded",
    "fade to background": "fade|opacity|dip",
    "title card": "words at the playhead|background|looks",
    "lower the volume": "gain",
    "make it faster": "speed|length",
    "longer entrance": "length|entrance",
    "stop loop": "loop|beats",
    "skip ahead": "frame|next|ten frames",
    "snap to marker": "snap|marker",
    "second line": "lines|leading",
    "bounce letters": "letters|hop|bounce",
    "tiny": "size|scale",
    "typeface size": "size",
    "wave hello": "wave|sway",
    "crop edges": "crop|edge",
    "flip upside down": "rotation|flip|cards turned|mirror",
    "white text": "colour|fill",
    "save look": "keep the look|looks",
}
"""What people type beside, in their own words; what may be found, parted by bars."""
FRESH = {
    "title animation": "entrance",
    "intro animation": "entrance",
    "text pop up": "pop",
    "typing cursor": "caret",
    "bounce in": "pop|fall|bounce",
    "slide up": "rise|up from below",
    "fade words": "fade",
    "blur background": "blur|tone",
    "shake screen": "shiver|shaken|glitch",
    "zoom out": "out of the lens|zoom",
    "spin logo": "whirl|wheel|turntable",
    "lower opacity": "opacity",
    "thick outline": "outline",
    "yellow text": "colour|fill",
    "drop shadow blur": "shadow|blur",
    "letterspacing": "tracking",
    "vertical text": "rotation|lines",
    "two columns": "lines|box width",
    "remove gap": "close the gap",
    "cut clip": "split|cut",
    "split screen": "crop",
    "keyboard shortcuts": "shortcuts",
    "save as copy": "save as",
    "previous version": "earlier versions",
    "restore backup": "earlier|unsaved",
    "frame rate 60": "size, rate",
    "loop clip": "several times|there and back|loop|repeat",
    "mute audio": "mute",
    "add music": "import",
    "export alpha": "export",
}
"""Thirty more, chosen when the synonyms were not touched any more."""
FIRST = 8


@pytest.fixture(scope="module")
def entries_project():
    media = Media(id="m", path="a.mp4", kind="footage", length=9.0, width=640, height=360, has_sound=True)
    words = title("Larkmoor 12", id="big", name="Larkmoor", length=80, moves=[pop(), rise_and_fade("exit")])
    other = title("Kite day", id="small", name="Kite day", start=20, length=50)
    shot = FootageClip(id="shot", name="Shot", media="m", length=80)
    return project_of(shot, other, words, media=(media,))


@pytest.fixture
def window(make_test_window, entries_project):
    made = make_test_window(entries_project)
    made.document.seek(30)
    made.document.select("small", "shot", "big")
    return made


def answers(there, word):
    return [item.title.lower() for item in found(there, word)[:FIRST]]


def test_at_least_a_hundred_and_fifty_words_of_the_trade_find_what_is_meant(window):
    assert len(WORDS) >= 150
    there = findables(window)
    missed = {
        word: answers(there, word)
        for word, meant in WORDS.items()
        if not any(meant in title for title in answers(there, word))
    }
    assert missed == {}


def test_of_thirty_words_chosen_last_twenty_seven_are_understood(window):
    there = findables(window)
    good = [
        word
        for word, meant in FRESH.items()
        if any(one in title for title in answers(there, word) for one in meant.split("|"))
    ]
    assert len(FRESH) == 30
    assert len(good) >= 27, set(FRESH) - set(good)


def test_what_people_type_in_their_own_words_is_mostly_understood(window):
    there = findables(window)
    good = [
        word
        for word, meant in MORE.items()
        if any(one in item.title.lower() for item in found(there, word)[:FIRST] for one in meant.split("|"))
    ]
    assert len(good) >= 0.9 * len(MORE), set(MORE) - set(good)
