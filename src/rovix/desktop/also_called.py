"""What else people call things: words typed into a search, and the words that stand on screen for them.

One entry serves every command, card, effect and field whose name has one of its words.
"""

from __future__ import annotations

ALSO_CALLED: dict[str, tuple[str, ...]] = {
    "3d": ("depth", "position z", "rotation x", "rotation y", "out of", "lens"),
    "alpha": ("opacity", "export"),
    "anchor": ("pivot",),
    "animate": ("entrance", "loop", "exit", "key"),
    "appear": ("entrance", "fade in", "uncover"),
    "backdrop": ("background",),
    "banner": ("box", "background"),
    "bezier": ("curve", "tangents", "path"),
    "blink": ("wink", "flicker", "lights"),
    "border": ("outline",),
    "bounce": ("settle", "hop", "bob", "spring", "pop"),
    "bpm": ("beat", "loop"),
    "callout": ("box round", "line"),
    "caption": ("text", "words"),
    "clone": ("duplicate", "echo"),
    "colorize": ("tone", "colour", "blush"),
    "color": ("colour",),
    "copies": ("echo", "trail"),
    "credits": ("lines", "page after page", "credits"),
    "crossfade": ("dissolve", "transition"),
    "cut": ("split", "transition: cut", "cut"),
    "delay": ("stagger", "echo"),
    "delete": ("remove", "take"),
    "distort": ("glitch", "slant"),
    "drop": ("fall", "shadow", "rain"),
    "duration": ("length",),
    "ease": ("curve", "smooth"),
    "easing": ("curve", "smooth"),
    "explode": ("letters fall", "come loose", "part"),
    "fade": ("fade", "opacity", "dissolve", "breathing"),
    "flash": ("lights", "wink", "flicker", "struck"),
    "flip": ("cards turned", "doors", "mirror", "turntable"),
    "font": ("typeface",),
    "freeze frame": ("freeze",),
    "frame hold": ("freeze",),
    "ghost": ("echo", "ghost", "trail"),
    "gradient": ("gradient", "fill"),
    "grow": ("grow", "swell", "scale"),
    "handles": ("tangents",),
    "heartbeat": ("two beats",),
    "highlight": ("fill sweep", "box"),
    "hotkey": ("shortcut",),
    "import": ("import",),
    "jitter": ("shiver", "restless", "shaken"),
    "jump": ("hop", "pop"),
    "kerning": ("tracking", "part and"),
    "keyframe": ("key",),
    "keyframes": ("keys",),
    "label": ("box round", "words at"),
    "layer": ("clip", "layer"),
    "letter spacing": ("tracking", "gather", "part and"),
    "lower third": ("box round", "line", "words at"),
    "marquee": ("run", "round", "reel", "wrap-around"),
    "mask": ("reveal box", "wipe", "crop"),
    "mirror": ("mirror", "reverse"),
    "neon": ("glow", "struck lights", "flicker"),
    "nest": ("group", "another sequence"),
    "neon sign": ("struck lights", "glow"),
    "offset": ("wrap-around", "stagger"),
    "opacity": ("fade", "opacity"),
    "parallax": ("out of depth", "position z"),
    "parent": ("follow",),
    "photo": ("import",),
    "precompose": ("group",),
    "preset": ("entrances", "looks", "loops", "exits"),
    "preview": ("rehearse", "play"),
    "pulse": ("swell", "two beats", "breathing"),
    "punch": ("pop", "stamp"),
    "quality": ("size, rate", "motion blur"),
    "ramp": ("curve", "speed"),
    "razor": ("split",),
    "rectangle": ("box",),
    "reflect": ("mirror",),
    "render": ("export",),
    "retime": ("stretch", "length"),
    "reveal": ("uncover", "reveal box", "wipe", "slot", "edges"),
    "reverse": ("backwards", "reverse", "reversed"),
    "ripple delete": ("close the gap",),
    "rotate": ("rotation", "turn", "whirl", "wheel"),
    "rotation": ("rotation", "turn", "whirl", "wheel"),
    "scale": ("scale", "grow", "swell", "pop"),
    "screenshot": ("picture", "freeze"),
    "scroll": ("run", "reel", "page after page"),
    "shake": ("shiver", "restless", "shaken"),
    "shimmer": ("glimmer", "fill sweep"),
    "shrink": ("press flat", "to the middle", "scale"),
    "shutter": ("motion blur",),
    "size": ("size", "scale"),
    "skew": ("slant", "lean"),
    "slide": ("from the", "to the", "slides", "slide"),
    "slow motion": ("length",),
    "smear": ("blur", "echo"),
    "sound effect": ("sound", "import"),
    "spin": ("whirl", "wheel", "rotation", "turntable"),
    "spring": ("spring", "pop", "settle", "curve"),
    "squash": ("wide and narrow", "wide to true", "press flat"),
    "stroke": ("outline",),
    "subtitle": ("text", "words"),
    "swing": ("sway", "hung sign", "sign"),
    "text": ("text", "words", "typeface"),
    "ticker": ("run", "round", "wrap-around"),
    "title": ("words at", "text", "looks"),
    "tilt": ("lean", "slant", "rotation"),
    "trail": ("echo", "trail"),
    "transparency": ("opacity", "fade"),
    "tremble": ("shiver", "restless"),
    "trim": ("trim",),
    "tween": ("curve", "key"),
    "type on": ("typed", "letter by letter"),
    "typewriter": ("typed", "by hand", "letter by letter", "taken back"),
    "typing": ("typed", "by hand", "letter by letter"),
    "unlink": ("follow",),
    "vhs": ("glitch", "grain"),
    "vibrate": ("shiver", "restless"),
    "vignette": ("tone",),
    "warp": ("slant", "wrap-around"),
    "watermark": ("import", "follow"),
    "whip": ("blown in", "blur"),
    "wiggle": ("shiver", "restless", "sway"),
    "wobble": ("sway", "restless", "spring"),
    "write on": ("typed", "letter by letter"),
    "zoom": ("grow", "out of", "past", "scale", "stamp", "zoom"),
}


def is_found(said: str, typed: str) -> bool:
    """Whether a thing, by what is said of it, is meant by what was typed: it has every word, or a word
    that stands on screen for it.

    >>> is_found("Typed, letters, entrance", "typewriter")
    True
    """
    said, typed = said.lower(), " ".join(typed.lower().split())
    if typed in said:
        return True
    meant = _meant(typed)
    return any(other in said for other in meant) or (
        " " in typed and all(word in said or any(o in said for o in _meant(word)) for word in typed.split())
    )


def _meant(typed: str) -> tuple[str, ...]:
    """The words on screen for what was typed, which may be the beginning of a longer word."""
    if typed in ALSO_CALLED:
        return ALSO_CALLED[typed]
    if len(typed) < 4:
        return ()
    return tuple(word for known, words in ALSO_CALLED.items() if known.startswith(typed) for word in words)
