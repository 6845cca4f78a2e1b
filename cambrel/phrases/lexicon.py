"""The words of photographers: names of formats, units, and what is only said around the figures."""

from __future__ import annotations

from cambrel.phrases.tokens import tokens_of

# names of formats, each with the formats that it may mean, the likeliest first
_FORMATS: tuple[tuple[str, tuple[str, ...]], ...] = (
    ("full frame", ("full-frame",)), ("fullframe", ("full-frame",)), ("ff", ("full-frame",)),
    ("fx format", ("full-frame",)),
    ("35 mm format", ("full-frame",)), ("35 mm film", ("full-frame",)), ("35 mm sensor", ("full-frame",)),
    ("35 mm camera", ("full-frame",)),
    ("36 x 24", ("full-frame",)), ("24 x 36", ("full-frame",)), ("36 x 24 mm", ("full-frame",)),
    ("24 x 36 mm", ("full-frame",)),
    ("135 format", ("full-frame",)), ("135 film", ("full-frame",)), ("small picture", ("full-frame",)),
    ("kleinbild", ("full-frame",)),
    ("vollformat", ("full-frame",)), ("kb", ("full-frame",)), ("plein format", ("full-frame",)),
    ("aps c", ("aps-c", "aps-c-small")), ("apsc", ("aps-c", "aps-c-small")), ("aps", ("aps-c", "aps-c-small", "aps-h")),
    ("aps c 1.5", ("aps-c",)), ("aps c 1.6", ("aps-c-small",)), ("apsc 1.5", ("aps-c",)),
    ("apsc 1.6", ("aps-c-small",)),
    ("aps c 1.5 x", ("aps-c",)), ("aps c 1.6 x", ("aps-c-small",)), ("apsc 1.5 x", ("aps-c",)),
    ("apsc 1.6 x", ("aps-c-small",)),
    ("1.5 x aps c", ("aps-c",)), ("1.6 x aps c", ("aps-c-small",)), ("1.5 aps c", ("aps-c",)),
    ("1.6 aps c", ("aps-c-small",)),
    ("crop sensor", ("aps-c", "aps-c-small")), ("crop body", ("aps-c", "aps-c-small")),
    ("crop camera", ("aps-c", "aps-c-small")),
    ("crop", ("aps-c", "aps-c-small")), ("cropped sensor", ("aps-c", "aps-c-small")),
    ("aps h", ("aps-h",)), ("apsh", ("aps-h",)),
    ("micro four thirds", ("micro-four-thirds",)), ("micro fourthirds", ("micro-four-thirds",)),
    ("micro 4 / 3", ("micro-four-thirds",)),
    ("micro 4 / 3 rds", ("micro-four-thirds",)), ("micro 43", ("micro-four-thirds",)),
    ("four thirds", ("micro-four-thirds",)),
    ("m 4 / 3", ("micro-four-thirds",)), ("m 4 / 3 rds", ("micro-four-thirds",)), ("m 43", ("micro-four-thirds",)),
    ("mft", ("micro-four-thirds",)),
    ("µ 43", ("micro-four-thirds",)), ("u 43", ("micro-four-thirds",)), ("µ 4 / 3", ("micro-four-thirds",)),
    ("mu 43", ("micro-four-thirds",)),
    ("fourthirds", ("micro-four-thirds",)), ("mft sensor", ("micro-four-thirds",)), ("m 4 3", ("micro-four-thirds",)),
    ("medium format", ("44x33", "54x40", "film-645")), ("mittelformat", ("44x33", "54x40", "film-645")),
    ("mf", ("44x33", "54x40")),
    ("digital medium format", ("44x33", "54x40")), ("44 x 33", ("44x33",)), ("33 x 44", ("44x33",)),
    ("44 x 33 mm", ("44x33",)),
    ("33 x 44 mm", ("44x33",)), ("54 x 40", ("54x40",)), ("54 x 40 mm", ("54x40",)), ("40 x 54", ("54x40",)),
    ("40 x 54 mm", ("54x40",)),
    ("645", ("film-645",)), ("6 x 4.5", ("film-645",)), ("6 x 6", ("film-66",)), ("6 x 7", ("film-67",)),
    ("4 x 5", ("sheet-4x5",)),
    ("4 x 5 in", ("sheet-4x5",)), ("4 x 5 inch", ("sheet-4x5",)), ("large format", ("sheet-4x5",)),
    ("half frame", ("half-frame",)),
    ("super 35", ("super-35-3-perf", "super-35-4-perf")), ("s 35", ("super-35-3-perf", "super-35-4-perf")),
    ("super 35 mm", ("super-35-3-perf", "super-35-4-perf")), ("super 16", ("super-16",)), ("s 16", ("super-16",)),
    ("super 16 mm", ("super-16",)), ("65 mm film", ("65mm-5-perf",)), ("65 mm cinema", ("65mm-5-perf",)),
)  # fmt: skip

FORMAT_NAMES: dict[tuple[str, ...], tuple[str, ...]] = {
    tuple(token.low for token in tokens_of(name)): formats for name, formats in _FORMATS
}
LONGEST_NAME = max(map(len, FORMAT_NAMES))

MM = {"mm", "millimetre", "millimetres", "millimeter", "millimeters", "mil", "mils"}
METRES = {
    "m": 1.0, "metre": 1.0, "metres": 1.0, "meter": 1.0, "meters": 1.0, "mtr": 1.0, "mtrs": 1.0, "cm": 0.01,
    "centimetre": 0.01,
    "centimetres": 0.01, "centimeter": 0.01, "centimeters": 0.01, "km": 1000.0, "kilometre": 1000.0,
    "kilometres": 1000.0,
    "kilometers": 1000.0, "ft": 0.3048, "foot": 0.3048, "feet": 0.3048, "yd": 0.9144, "yds": 0.9144, "yard": 0.9144,
    "yards": 0.9144,
}  # fmt: skip
INCHES = {"in", "inch", "inches", "zoll"}
TYPE_WORDS = {*INCHES, "type", "typ", "typed", "sensor"}
GRAMS = {
    "g": 1.0, "gr": 1.0, "gram": 1.0, "grams": 1.0, "gramme": 1.0, "grammes": 1.0, "kg": 1000.0, "kilo": 1000.0,
    "kilos": 1000.0,
    "lb": 453.59237, "lbs": 453.59237, "pound": 453.59237, "pounds": 453.59237, "oz": 28.349523125,
    "ounce": 28.349523125,
    "ounces": 28.349523125,
}  # fmt: skip
SPELLED = {
    "one": 1.0, "two": 2.0, "three": 3.0, "four": 4.0, "five": 5.0, "six": 6.0, "seven": 7.0, "eight": 8.0, "nine": 9.0,
    "ten": 10.0,
    "twelve": 12.0, "fifteen": 15.0, "twenty": 20.0, "thirty": 30.0, "forty": 40.0, "fifty": 50.0, "hundred": 100.0,
}  # fmt: skip
SECONDS = {"s", "sec", "secs", "second", "seconds"}
PIXELS = {"mp", "mpx", "mpix", "mpixel", "mpixels", "megapixel", "megapixels", "megapix", "mps"}
MICRONS = {"µm", "um", "micron", "microns", "micrometre", "micrometres", "micrometer", "micrometers"}
EQUIVALENT = {
    "equivalent",
    "equivalents",
    "equiv",
    "equivs",
    "eq",
    "eqv",
    "eqiv",
    "ffe",
    "ffeq",
    "ffequiv",
    "äquivalent",
    "equivalence",
}
TRUE = {"true", "actual", "actually", "real", "native", "physical"}
CONVERTERS = {
    "converter",
    "teleconverter",
    "extender",
    "ext",
    "tc",
    "teleplus",
    "doubler",
    "booster",
    "reducer",
    "speedbooster",
}
ZOOMS = {"zoom", "optical", "digital", "lossless", "magnification", "hybrid"}
SPLITS = {"vs", "versus", "against", "v"}
COMPARED = {"compare", "compared", "compares", "beside", "or"}
TARGETS = {"in", "as", "to", "into", "for"}
NOT_FOCAL = {
    "diagonal",
    "diag",
    "filter",
    "thread",
    "diameter",
    "dia",
    "circle",
    "register",
    "flange",
    "long",
    "wide",
    "tall",
    "length",
}
NEAREST = {"close", "closest", "minimum", "min", "mfd", "nearest"}
QUESTIONS = {"replaces", "replace", "instead", "matches", "match"}

FILLERS = {
    "a", "an", "the", "my", "your", "of", "is", "it", "its", "what", "whats", "which", "how", "does", "do", "would",
    "be", "with", "and", "on", "at",
    "from", "by", "using", "use", "used", "lens", "lenses", "focal", "length", "lengths", "aperture", "apertures", "f",
    "number", "fnumber",
    "stop", "sensor", "camera", "cameras", "body", "bodies", "size", "main", "wide", "open", "prime", "zoom", "shutter",
    "speed", "exposure", "focus",
    "focused", "distance", "away", "subject", "range", "factor", "format", "film", "this", "that", "there", "here",
    "like", "look", "looks",
    "same", "view", "field", "mount", "dual", "variable", "constant", "maximum", "max", "about", "approx", "circa",
    "ca", "c", "s", "rear",
    "terms", "pixel", "pixels", "pitch", "px", "weight", "weighs", "weighing", "i", "me", "need", "get", "give",
    "gives", "want", "under",
    "rectilinear", "digital", "each", "new", "no", "fixed", "set", "shot", "taken", "are", "was", "if", "ii", "when",
    "put", "mounted", "against",
    "phone", "smartphone", "handy", "compact", "photo", "photos", "picture", "wideangle", "angle", "tele", "telephoto",
    "standard", "normal",
    "equivalent", "true", "actual", "stated", "full", "one", "type", "x", "am", "im", "we", "have", "has", "than",
    "roughly", "to", "in", "as", "for",
    "what's", "large", "larger", "small",
    "macro", "filter", "thread", "diameter", "b", "close", "closest", "minimum", "diagonal", "image", "circle",
    "between",
    "smaller", "sized", "big", "bigger", "becomes", "become", "act", "acts", "replaces", "replace", "mm",
}  # fmt: skip
"""Words that are said around the figures and say none themselves."""
