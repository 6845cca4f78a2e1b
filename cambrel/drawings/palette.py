"""The colours and line patterns by which rigs are told apart, for light and dark; the style sheet is held against them
by a test.
"""

from __future__ import annotations

RIG_LIGHT = ("#7d2206", "#0b5fd8", "#1f6b4a", "#a43295", "#796900", "#161616")
RIG_DARK = ("#ef6c42", "#6a93fb", "#2ef09c", "#df6fb9", "#edc417", "#ebebeb")
DASHES = ("", "9 3", "2.5 2.5", "10 3 2 3", "16 4", "2 2 2 6")
"""Line pattern of rigs A to F, as SVG dash arrays in pixels."""

PAPER_LIGHT, INK_LIGHT, QUIET_LIGHT = "#f7f7f7", "#161616", "#565656"
RULE_LIGHT, RAISED_LIGHT, ACCENT_LIGHT, WARN_LIGHT, FILL_LIGHT = "#c2c2c2", "#ffffff", "#5125c4", "#9c1c1c", "0.2"
LIT_LIGHT, UNLIT_LIGHT, LIT_DARK, UNLIT_DARK = "#ffffff", "#2e2e2e", "#5c5c5c", "#000000"
"""The part of a frame that a lens lights, and the corners that it leaves dark: darker than the lit part on either
paper.
"""
PAPER_DARK, INK_DARK, QUIET_DARK = "#1f1f1f", "#ececec", "#a9a9a9"
