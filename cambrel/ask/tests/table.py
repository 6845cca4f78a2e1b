"""Questions with the figures that answer them, by kind: each answer with the ways in which it is asked for. Those
behind a bar are misspelt, terse or put the other way round.
"""

from cambrel.ask.tests import lens_questions, light_questions, sharpness_questions, view_questions

TABLE = (
    *lens_questions.QUESTIONS,
    *view_questions.QUESTIONS,
    *sharpness_questions.QUESTIONS,
    *light_questions.QUESTIONS,
)

NOT_ANSWERED = (
    "iso equivalent mft 200 to full frame",
    "crop 45mp to 4k",
    "300 dpi",
    "3 m",
    "5 stops ibis",
    "with 1.4x",
    "50",
    "50 mm at 5500 K",
    "50 mm 300 mph",
    "f/0.25",
    "50 f/0.3 ff",
    "what is a 50 purple",
    "50 mm lens for 300 euros",
    "dx 50 1.8",
    "50 1.8 x",
    "24 mm f/2 in 2024",
    "dof 85 1.8",
    "purple 37 ladder",
    "moon 12",
    "stops 2.8 to 4",
    "angle of view 24",
    "500 rule 20",
    "2 cats 50 ff",
    "50 f/2 ff 12",
    "lens 7 stops 33",
    "how many stops from 400 to 3200",
    "100 W 50 mm",
    "6.9mm f/1.8 phone lens in full frame",
    "hyperfocal 24 mm at 5 stops",
    "50 mm f/2 ff at 300 dpi",
    "85 1.8 with 24 frames",
    "20 degrees celsius 50 mm",
    "50 f/2 100 lux",
    "is 50 mm better for weddings than 12 apples",
    "iso 100 f/2 1/60 37",
    "nd64 50 mm",
    "print 24",
    "stars 500 20 30",
)
"""Lines that leave a number or a word unexplained, or hold a unit that does not belong: offered or refused, never
answered.
"""
