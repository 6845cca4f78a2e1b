"""The words of photographers: names of formats, units, and what is only said around the figures."""

from __future__ import annotations

from cambrel.phrases.tokens import tokens_of
from cambrel.phrases.units import INCHES, LENGTHS_M, MM

# names of formats, each with the formats that it may mean, the likeliest first
_FORMATS: tuple[tuple[str, tuple[str, ...]], ...] = (
    ("full frame", ("full-frame",)), ("fullframe", ("full-frame",)), ("ff", ("full-frame",)),
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

METRES = {name: metres for name, metres in LENGTHS_M.items() if name not in {*MM, *INCHES, "'", '"'}}
TYPE_WORDS = {*INCHES, "type", "typ", "typed", "sensor"}
SPELLED = {
    "one": 1.0, "two": 2.0, "three": 3.0, "four": 4.0, "five": 5.0, "six": 6.0, "seven": 7.0, "eight": 8.0, "nine": 9.0,
    "ten": 10.0,
    "twelve": 12.0, "fifteen": 15.0, "twenty": 20.0, "thirty": 30.0, "forty": 40.0, "fifty": 50.0, "hundred": 100.0,
}  # fmt: skip
PIXELS = {"mp", "mpx", "mpix", "mpixel", "mpixels", "megapixel", "megapixels", "megapix", "mps"}
MICRONS = {"µm", "um", "micron", "microns", "micrometre", "micrometres", "micrometer", "micrometers"}
EQUIVALENT = {
    "equivalent",
    "equivalents",
    "equiv",
    "equivs",
    "eq",
    "eqv",
    "eff",
    "équivalent",
    "équivalente",
    "équivalents",
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
BEHIND_A_LENGTH = {
    "away",
    "tall",
    "high",
    "wide",
    "long",
    "big",
    "from",
    "off",
    "distance",
    "print",
    "prints",
    "with",
    "on",
}
NEAREST = {"close", "closest", "minimum", "min", "mfd", "nearest"}
QUESTIONS = {"replaces", "replace", "instead", "matches", "match"}

_SAID_AROUND = """
    a an the my your our their his her this that these those it its it's is are was were be been being am im i'm i
    we you he she they me us them of to in on at as by for from with without and or but if when while where what
    what's whats which how do does did done doesn't don't not no yes off up down out over under into onto per than
    whose who why would'd ll ve re there's here's that's let lets also f s e d l o y c'è der die das den dem des ein
    eine einen einem einer eines ist sind war und oder auf bei mit wie welche welcher welches von vom zu zum zur für
    als wenn ich mein meine wird werden hat habe gegen nach aus bis kann man viel viele gross groß weit le la les un
    une du de et ou est sont sur avec pour quel quelle quels quelles en au aux dans par je mon ma mes à combien
    quand si que qu el los las una uno del es son con para por cuál cual cuánto cuanto qué mi mis al se il lo gli di
    da dal della dei nel nella su qual quale quanto quanti che mio mia è ca plus circa approx approximately about
    roughly around vs
"""
FILLERS = frozenset(_SAID_AROUND.split())
"""Words that are said around the figures and say none themselves, in the languages of the questions."""
MAGNIFIED = {"magnification", "macro", "life", "lifesize", "size"}
