"""Units that photographers write, each by how much of the one that is kept: the one table of them, for typed figures,
names, adverts, tables and questions; and the units that no figure of ours has, by name.
"""

from __future__ import annotations

LENGTHS_M = {
    "km": 1000.0, "kilometre": 1000.0, "kilometres": 1000.0, "kilometer": 1000.0, "kilometers": 1000.0,
    "m": 1.0, "metre": 1.0, "metres": 1.0, "meter": 1.0, "meters": 1.0, "mtr": 1.0, "mtrs": 1.0,
    "mètre": 1.0, "mètres": 1.0, "metri": 1.0, "metro": 1.0, "metros": 1.0,
    "dm": 0.1, "cm": 0.01, "centimetre": 0.01, "centimetres": 0.01, "centimeter": 0.01, "centimeters": 0.01,
    "mm": 0.001,
    "ft": 0.3048, "foot": 0.3048, "feet": 0.3048, "'": 0.3048,
    "in": 0.0254, "inch": 0.0254, "inches": 0.0254, '"': 0.0254,
    "yd": 0.9144, "yds": 0.9144, "yard": 0.9144, "yards": 0.9144,
    "mi": 1609.344, "mile": 1609.344, "miles": 1609.344,
}  # fmt: skip
MASSES_G = {
    "g": 1.0, "gr": 1.0, "gram": 1.0, "grams": 1.0, "gramme": 1.0, "grammes": 1.0,
    "kg": 1000.0, "kilo": 1000.0, "kilos": 1000.0,
    "oz": 28.349523125, "ounce": 28.349523125, "ounces": 28.349523125,
    "lb": 453.59237, "lbs": 453.59237, "pound": 453.59237, "pounds": 453.59237,
}  # fmt: skip
SECONDS = {
    "s": 1.0, "sec": 1.0, "secs": 1.0, "second": 1.0, "seconds": 1.0, "sekunde": 1.0, "sekunden": 1.0,
    "secondes": 1.0, "segundos": 1.0, "secondi": 1.0,
    "ms": 0.001, "minute": 60.0, "minutes": 60.0, "mins": 60.0, "minuten": 60.0,
}  # fmt: skip
MM = frozenset({"mm", "millimetre", "millimetres", "millimeter", "millimeters", "mil", "mils"})
INCHES = frozenset({"in", "inch", "inches", "zoll"})
STOPS = frozenset({"stop", "stops", "blendenstufe", "blendenstufen", "diaph", "diaphs", "pasos"})
DOTS = frozenset({"dpi", "ppi"})
DEGREES = frozenset({"°", "deg", "degs", "degree", "degrees", "grad", "degrés", "grados", "gradi"})
RATES = frozenset({"fps"})
PERCENT = frozenset({"%", "percent", "prozent"})
PIXEL_COUNT = frozenset({"px", "pixel", "pixels"})

CURRENCIES = {
    "€": "EUR", "eur": "EUR", "euro": "EUR", "euros": "EUR", "£": "GBP", "gbp": "GBP", "usd": "USD",
    "$": "$", "dollars": "$", "bucks": "$",
}  # fmt: skip
"""Of a price, as it is written: the dollar sign stands for many and is not guessed."""

FOREIGN = {
    "k": "kelvin, of the colour of light", "kelvin": "kelvin, of the colour of light",
    "w": "watts", "watt": "watts", "watts": "watts", "ws": "watt seconds", "lux": "lux", "lumen": "lumens",
    "lumens": "lumens", "lm": "lumens", "cd": "candela", "nits": "nits",
    "mph": "a speed", "kph": "a speed", "kmh": "a speed", "knots": "a speed", "rpm": "a rate of turning",
    "hz": "hertz", "khz": "hertz", "mhz": "hertz", "ghz": "hertz",
    "gb": "a size of files", "mb": "a size of files", "tb": "a size of files",
    "mah": "a charge", "wh": "an energy", "v": "volts", "volt": "volts", "volts": "volts",
    "db": "decibels", "bit": "a depth of bits", "bits": "a depth of bits", "nm": "nanometres, of the colour of light",
    "celsius": "a temperature", "fahrenheit": "a temperature", "°c": "a temperature", "°f": "a temperature",
    "hours": "hours", "hour": "hours", "days": "days", "years": "years", "weeks": "weeks",
    "lines": "lines", "lpmm": "line pairs", "dioptre": "dioptres", "dioptres": "dioptres", "diopter": "dioptres",
    "diopters": "dioptres",
    "litre": "a volume", "litres": "a volume", "liter": "a volume", "liters": "a volume", "people": "people",
    "points": "points", "shots": "shots", "frames": "frames", "pairs": "pairs",
}  # fmt: skip
"""Units behind a number that is then no figure of a lens or a camera, and what they are of."""
OTHER_UNITS = frozenset({*STOPS, *DOTS, *DEGREES, *PERCENT, *RATES, *PIXEL_COUNT, *CURRENCIES, *FOREIGN, "ev"})
"""Units of a number that is no length, no f-number and no ISO."""
