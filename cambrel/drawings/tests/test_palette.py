"""The rigs' colours: readable on both papers, told apart by colour-blind eyes, and the same in the style sheet."""

from itertools import combinations
from pathlib import Path
from unittest import TestCase

import numpy as np

from cambrel.drawings import palette as p
from cambrel.drawings.export import VARIABLES
from cambrel.drawings.style_sheets import rules_of

CSS = Path(__file__).resolve().parents[2] / "site" / "static" / "site" / "cambrel.css"
RULES = list(rules_of(CSS.read_text()))


def of_theme(name):
    """What the style sheet declares for a theme, in all of its rules together."""
    found = {}
    for selector, declared in RULES:
        if f'[data-bs-theme="{name}"]' in selector.split(", "):
            found |= declared
    return found


# Linear RGB as seen with one kind of cone missing (deuteranopia, protanopia, tritanopia) and with all of them
SEEN = {
    "all": np.eye(3),
    "deutan": np.array(
        [[0.367322, 0.860646, -0.227968], [0.280085, 0.672501, 0.047413], [-0.01182, 0.04294, 0.968881]]
    ),
    "protan": np.array(
        [[0.152286, 1.052583, -0.204868], [0.114503, 0.786281, 0.099216], [-0.003882, -0.048116, 1.051998]]
    ),
    "tritan": np.array(
        [[1.255528, -0.076749, -0.178779], [-0.078411, 0.930809, 0.147602], [0.004733, 0.691367, 0.3039]]
    ),
}


def linear(colour):
    values = np.array([int(colour[i : i + 2], 16) for i in (1, 3, 5)]) / 255
    return np.where(values <= 0.04045, values / 12.92, ((values + 0.055) / 1.055) ** 2.4)


def contrast(one, other):
    light = sorted(float(linear(c) @ [0.2126, 0.7152, 0.0722]) + 0.05 for c in (one, other))
    return light[1] / light[0]


def lab(rgb):
    xyz = np.array([[0.4124, 0.3576, 0.1805], [0.2126, 0.7152, 0.0722], [0.0193, 0.1192, 0.9505]]) @ np.clip(rgb, 0, 1)
    x, y, z = (np.cbrt(v) if v > 0.008856 else 7.787 * v + 16 / 116 for v in xyz / [0.9505, 1, 1.089])
    return np.array([116 * y - 16, 500 * (x - y), 200 * (y - z)])


class PaletteTests(TestCase):
    papers = (
        (p.RIG_LIGHT, p.PAPER_LIGHT, p.INK_LIGHT, p.QUIET_LIGHT),
        (p.RIG_DARK, p.PAPER_DARK, p.INK_DARK, p.QUIET_DARK),
    )

    def test_text_and_lines_stand_out_from_the_paper(self):
        for rigs, paper, ink, quiet in self.papers:
            for colour in (*rigs, ink, quiet):
                with self.subTest(colour=colour, paper=paper):
                    self.assertGreaterEqual(contrast(colour, paper), 4.5)

    def test_rigs_are_told_apart_by_every_eye(self):
        for rigs, paper, *_ in self.papers:
            for eye, seen in SEEN.items():
                for one, other in combinations(rigs, 2):
                    with self.subTest(paper=paper, eye=eye, pair=(one, other)):
                        self.assertGreater(np.linalg.norm(lab(seen @ linear(one)) - lab(seen @ linear(other))), 15)

    def test_line_patterns_differ(self):
        self.assertEqual(len(set(p.DASHES)), 6)

    def test_the_style_sheet_has_the_same_colours_and_patterns(self):
        for theme, (rigs, paper, ink, quiet) in zip(("light", "dark"), self.papers, strict=True):
            found = of_theme(theme)
            self.assertEqual(tuple(found[f"--{letter}"] for letter in "abcdef"), rigs)
            self.assertEqual((found["--paper"], found["--ink"], found["--quiet"]), (paper, ink, quiet))
        dashes = [declared["--dash"] for selector, declared in RULES if selector in {f".rig-{one}" for one in "abcdef"}]
        self.assertEqual(tuple(dash.replace("none", "") for dash in dashes), p.DASHES)

    def test_what_a_lens_lights_is_lighter_than_its_dark_corners_on_either_paper(self):
        for theme, lit, unlit in (("light", p.LIT_LIGHT, p.UNLIT_LIGHT), ("dark", p.LIT_DARK, p.UNLIT_DARK)):
            found = of_theme(theme)
            self.assertEqual((found["--lit"], found["--unlit"]), (lit, unlit))
            self.assertGreater(linear(lit) @ np.ones(3), linear(unlit) @ np.ones(3))
            self.assertGreaterEqual(contrast(lit, unlit), 3)

    def test_drawings_that_stand_alone_use_the_light_palette_of_the_style_sheet(self):
        found = of_theme("light")
        self.assertEqual({name: found[name] for name in VARIABLES}, VARIABLES)
