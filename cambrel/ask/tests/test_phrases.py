"""A hundred and twenty questions as photographers put them, each with its answer: terse, spoken, from adverts and in
forum shorthand, British and American, with points and commas. The answer is judged by arithmetic of its own: diagonals,
and the f-number with them."""

from math import hypot
from unittest import TestCase

from cambrel.ask.asking import asked
from cambrel.ask.question_kind import Terms

SIZES = {
    "ff": (36, 24), "mft": (17.3, 13), "apsc": (23.5, 15.6), "apsc16": (22.3, 14.9), "one": (13.2, 8.8),
    "44": (43.8, 32.9),
    "1/1.3": (9.6, 7.2), "1/2.3": (6.17, 4.55),
}  # fmt: skip


def crop(key):
    return hypot(36, 24) / hypot(*SIZES[key])


TERSE = (
    ("21 f/2.2 aps-c 1.6", 21, 2.2, "apsc16", "ff"), ("25/1.4 mft", 25, 1.4, "mft", "ff"),
    ("50 1.8 ff", 50, 1.8, "ff", "mft"),
    ("35 f2 apsc", 35, 2, "apsc", "ff"), ("12 f/2 m43", 12, 2, "mft", "ff"), ("85 f1.4 ff", 85, 1.4, "ff", "mft"),
    ("8.8 f/1.8 1 inch", 8.8, 1.8, "one", "ff"), ("63 f2.8 44x33", 63, 2.8, "44", "ff"),
    ("7 f1.8 1/1.3", 7, 1.8, "1/1.3", "ff"),
    ("50mm f/2 mft", 50, 2, "mft", "ff"), ("23mm f1.4 aps-c", 23, 1.4, "apsc", "ff"),
    ("100 f/2.8 full frame", 100, 2.8, "ff", "mft"),
    ("56 1.2 apsc", 56, 1.2, "apsc", "ff"), ("45 1.8 mft", 45, 1.8, "mft", "ff"),
    ("4.5 f/2 1/2.3", 4.5, 2, "1/2.3", "ff"),
    ("80/1.9 44x33", 80, 1.9, "44", "ff"), ("24/1.4 ff", 24, 1.4, "ff", "mft"), ("300 f4 mft", 300, 4, "mft", "ff"),
    ("16 f/2.8 aps-c 1.6", 16, 2.8, "apsc16", "ff"), ("10 f2.8 1\"", 10, 2.8, "one", "ff"),
    ("75 f1,8 mft", 75, 1.8, "mft", "ff"),
    ("21 mm f/2,2 aps-c", 21, 2.2, "apsc", "ff"), ("25 f1,4 m4/3", 25, 1.4, "mft", "ff"),
    ("35 mm f/1,4 ff", 35, 1.4, "ff", "mft"),
    ("50,0 mm f/1,8 apsc", 50, 1.8, "apsc", "ff"), ("17 f1.2 mft", 17, 1.2, "mft", "ff"),
    ("33 f/1.4 aps-c", 33, 1.4, "apsc", "ff"),
    ("110 f2 44x33", 110, 2, "44", "ff"), ("20 f/1.7 mft", 20, 1.7, "mft", "ff"), ("28 f/2 ff", 28, 2, "ff", "mft"),
)  # fmt: skip
SPOKEN = (
    ("what is 50 f/2 ff on mft", 50, 2, "ff", "mft"),
    ("what would a 35mm f/1.4 on full frame be on micro four thirds", 35, 1.4, "ff", "mft"),
    ("a 25 mm f/1.4 lens on micro four thirds", 25, 1.4, "mft", "ff"),
    ("what does a 56 mm f/1.2 on aps-c look like on full frame", 56, 1.2, "apsc", "ff"),
    ("my 21mm f/2.2 on a 1.6x body", 21, 2.2, "apsc16", "ff"),
    ("what is my mft 12 mm f/2 worth on full frame", 12, 2, "mft", "ff"),
    ("which lens on mft for 85mm f/1.4 full frame", 85, 1.4, "ff", "mft"), ("mft for 85 1.4", 85, 1.4, "ff", "mft"),
    ("if I use a 50mm f/1.8 on micro four thirds", 50, 1.8, "mft", "ff"),
    ("how does 35 mm f/2 on full frame translate to mft", 35, 2, "ff", "mft"),
    ("what's the full frame equivalent of 23mm f/2 on aps-c", 23, 2, "apsc", "ff"),
    ("convert 45mm f/1.8 mft to full frame", 45, 1.8, "mft", "ff"),
    ("50 f/2 full frame in micro four thirds terms", 50, 2, "ff", "mft"),
    ("please tell me what 80 mm f/1.9 on 44x33 is on full frame", 80, 1.9, "44", "ff"),
    ("a 300 mm f/4 on micro four thirds, what is it on full frame?", 300, 4, "mft", "ff"),
    ("would a 24 mm f/1.4 on full frame be 12 on mft", 24, 1.4, "ff", "mft"),
    ("thinking of a 33mm at f/1.4 on aps-c", 33, 1.4, "apsc", "ff"),
    ("what is 100mm f2.8 on full frame for micro four thirds", 100, 2.8, "ff", "mft"),
    ("full frame equivalent of a 16 mm f/2.8 on aps-c", 16, 2.8, "apsc", "ff"),
    ("equivalent of 75mm f/1.8 micro four thirds", 75, 1.8, "mft", "ff"),
    ("I have a 20mm f1.7 for micro four thirds", 20, 1.7, "mft", "ff"),
    ("what is 28 f/2 on full frame when I shoot mft", 28, 2, "ff", "mft"),
    ("what does an 8.8mm f/1.8 on a one-inch sensor give", 8.8, 1.8, "one", "ff"),
    ("tell me about 50 mm f/1.2 on full frame on mft", 50, 1.2, "ff", "mft"),
    ("what is a 17mm f/1.2 on four thirds", 17, 1.2, "mft", "ff"),
    ("what is 10 mm f/2.8 on a 1-inch sensor like", 10, 2.8, "one", "ff"),
    ("could you convert 110 mm f/2 on medium format 44x33", 110, 2, "44", "ff"),
    ("the same as 135mm f/2 full frame but on mft", 135, 2, "ff", "mft"),
    ("what should I set on mft for 50mm f/2.8 on full frame", 50, 2.8, "ff", "mft"),
    ("does a 25mm f/1.4 on mft equal 50 on full frame", 25, 1.4, "mft", "ff"),
)  # fmt: skip
ADVERT = (
    ("25mm F1.4 ASPH for Micro Four Thirds", 25, 1.4, "mft", "ff"),
    ("56mm F1.2 lens, APS-C format", 56, 1.2, "apsc", "ff"),
    ("Full-frame 85 mm F1.4 portrait lens", 85, 1.4, "ff", "mft"),
    ("Main camera: 7 mm, f/1.8, 1/1.3-inch sensor", 7, 1.8, "1/1.3", "ff"),
    ("Prime lens 35mm F2 (full frame)", 35, 2, "ff", "mft"), ("Wide-angle 12mm F2.0 for MFT mount", 12, 2, "mft", "ff"),
    ("23 mm F2 compact APS-C lens", 23, 2, "apsc", "ff"),
    ("8.8 mm f/1.8 with 1-inch type sensor", 8.8, 1.8, "one", "ff"),
    ("Medium format 44 x 33 lens, 80mm F1.9", 80, 1.9, "44", "ff"),
    ("Telephoto 300mm F4 for Micro Four Thirds", 300, 4, "mft", "ff"),
    ("50mm F1.8 full-frame prime", 50, 1.8, "ff", "mft"),
    ("Portrait lens 45 mm F1.8 (Micro Four Thirds)", 45, 1.8, "mft", "ff"),
    ("33mm F1.4 large-aperture APS-C prime", 33, 1.4, "apsc", "ff"),
    ("100mm F2.8 Macro, full frame", 100, 2.8, "ff", "mft"),
    ("Standard lens: focal length 25 mm, maximum aperture f/1.4, Micro Four Thirds", 25, 1.4, "mft", "ff"),
    ("Focal length 21 mm; aperture f/2.2; APS-C", 21, 2.2, "apsc", "ff"),
    ("24mm F1.4 wide prime for full frame cameras", 24, 1.4, "ff", "mft"),
    ("Brennweite 50 mm, Lichtstärke f/1,8, Vollformat", 50, 1.8, "ff", "mft"),
    ("Objectif 35 mm f/1,4 plein format", 35, 1.4, "ff", "mft"),
    ("17 mm F1.2 PRIME, Micro Four Thirds", 17, 1.2, "mft", "ff"),
    ("Camera lens 10 mm f/2.8, 1.0-type sensor", 10, 2.8, "one", "ff"),
    ("110mm F2 for 44 x 33 mm medium format", 110, 2, "44", "ff"),
    ("75mm F1.8 MFT telephoto prime", 75, 1.8, "mft", "ff"),
    ("28mm F2 full-frame lens in black", 28, 2, "ff", "mft"), ("16mm F2.8 pancake for APS-C", 16, 2.8, "apsc", "ff"),
    ("135mm F2 full frame portrait telephoto", 135, 2, "ff", "mft"),
    ("20mm F1.7 II ASPH, Micro 4/3", 20, 1.7, "mft", "ff"),
    ("50 mm F1.2 flagship prime (full frame)", 50, 1.2, "ff", "mft"),
    ("63mm F2.8 standard prime, 44x33", 63, 2.8, "44", "ff"),
    ("Super-telephoto 200mm F2.8, Micro Four Thirds", 200, 2.8, "mft", "ff"),
)  # fmt: skip
FORUM = (
    ("25/1.4 on m43 = ?", 25, 1.4, "mft", "ff"), ("35/2 ff -> m43", 35, 2, "ff", "mft"),
    ("50/1.8 ff in m43 terms?", 50, 1.8, "ff", "mft"),
    ("56/1.2 apsc vs ff equiv", 56, 1.2, "apsc", "ff"), ("12/2 m4/3 ff eq", 12, 2, "mft", "ff"),
    ("85/1.4 FF to MFT", 85, 1.4, "ff", "mft"),
    ("my 45/1.8 (m43)", 45, 1.8, "mft", "ff"), ("33/1.4 on aps-c anyone?", 33, 1.4, "apsc", "ff"),
    ("24/1.4 on FF to m43", 24, 1.4, "ff", "mft"),
    ("75/1.8 mft = what on ff", 75, 1.8, "mft", "ff"), ("300/4 on m43 eff", 300, 4, "mft", "ff"),
    ("100/2.8 FF on m43?", 100, 2.8, "ff", "mft"),
    ("equiv of the 20/1.7 MFT?", 20, 1.7, "mft", "ff"), ("50/1.2 FF => MFT", 50, 1.2, "ff", "mft"),
    ("23/2 apsc is?", 23, 2, "apsc", "ff"),
    ("63/2.8 on 44x33 imo", 63, 2.8, "44", "ff"), ("16/2.8 crop 1.6", 16, 2.8, "apsc16", "ff"),
    ("17/1.2 m43 ftw", 17, 1.2, "mft", "ff"),
    ("135/2 FF for m43", 135, 2, "ff", "mft"), ("28/2 ff on mft?", 28, 2, "ff", "mft"),
    ("110/2 44x33 lol", 110, 2, "44", "ff"),
    ("21/2.2 on 1.6x crop", 21, 2.2, "apsc16", "ff"), ("8.8/1.8 1\" sensor", 8.8, 1.8, "one", "ff"),
    ("80/1.9 mf size 44x33", 80, 1.9, "44", "ff"),
    ("50 f2 ff on mft plz", 50, 2, "ff", "mft"), ("25mm f1.4 M43 shooter here", 25, 1.4, "mft", "ff"),
    ("200/2.8 mft birds", 200, 2.8, "mft", "ff"),
    ("35/1.4 ff ≈ mft", 35, 1.4, "ff", "mft"), ("56 f1.2 on APSC bokeh", 56, 1.2, "apsc", "ff"),
    ("85mm f/1.8 FF to mft bokeh wise", 85, 1.8, "ff", "mft"),
)  # fmt: skip
SLUGS = {"ff": "full-frame", "mft": "micro-four-thirds"}


class PhraseTests(TestCase):
    def test_a_hundred_and_twenty_phrases(self):
        every = {"terse": TERSE, "spoken": SPOKEN, "advert": ADVERT, "forum": FORUM}
        self.assertEqual([len(phrases) for phrases in every.values()], [30] * 4)
        for way, phrases in every.items():
            for text, focal, number, source, target in phrases:
                with self.subTest(way=way, text=text):
                    reading = asked(text, Terms())
                    self.assertIsNotNone(reading.answer, f"offered {reading.offers}, not understood {reading.unread}")
                    found = reading.answer
                    side = found.sides[0]
                    there = {one.slug: one for one in (side.on, *side.others)}
                    shown = there.get(SLUGS[target])
                    self.assertIsNotNone(shown, f"not told of {target}")
                    k = crop(source) / crop(target)
                    self.assertAlmostEqual(self.figure(shown.view) / (focal * k), 1, delta=0.02, msg=shown.view)
                    self.assertAlmostEqual(self.figure(shown.depth_and_light) / (number * k), 1, delta=0.03)

    def figure(self, text):
        return float(text.replace("\u00a0", " ").removeprefix("f/").split(" ")[0].replace(",", ""))
