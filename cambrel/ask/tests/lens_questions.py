"""Questions about lenses: on another format, and against each other."""

from cambrel.ask.tests.by_hand import (
    area,
    crop,
    lens,
)

QUESTIONS = (
    # ---- a lens on another format
    (
        "lens",
        lens(25, 1.4, "mft"),
        "25 f/1.4 mft | 25/1.4 m43; mft 25 1.4; 25 mm f1,4 micro four tirds; which full frame lens is a"
        " 25mm 1.4 m43; ff equivalent of a 25/1.4 mft",
    ),
    (
        "lens",
        lens(50, 2, "ff", "mft"),
        "what is 50 f/2 ff on mft; how does 50 mm f/2 on full frame translate to mft | 50 2 ff -> mft; on"
        " mft what is 50 f/2 full frame; 50 f·2 ff to m43",
    ),
    (
        "lens",
        lens(35, None, "ff", "mft"),
        "which focal length on mft gives the look of 35; what focal length on mft gives the look of 35 mm"
        " on full frame | what lens on m43 looks like 35 ff; 35 ff in mft",
    ),
    (
        "lens",
        lens(85, 1.4, "ff", "apsc"),
        "which aps-c lens matches 85 mm f/1.4 full frame; 85mm f/1.4 on full frame in aps-c terms | apsc"
        " for 85 1.4 ff; 85/1.4 ff => apsc; what apsc lens equals 85 1.4 on ff",
    ),
    (
        "lens",
        {"focal length there": 33.6, "f-number of the same depth and light": 3.52},
        "21 f/2.2 aps-c 1.6; 21 mm f/2.2 on a 1.6x body | 21 2.2 crop 1.6; 21/2.2 1.6 crop",
    ),
    (
        "lens",
        {"focal length there": 56 * 1.5, "f-number of the same depth and light": 1.2 * 1.5},
        "56 mm f/1.2 on aps-c 1.5x | 56 1.2 crop factor 1.5",
    ),
    (
        "lens",
        {"focal length there": 80 * 0.79, "f-number of the same depth and light": 1.9 * 0.79},
        "80 mm f/1.9 with a crop factor of 0.79 | 80/1.9 0.79 crop",
    ),
    (
        "lens",
        {"focal length there": 25, "f-number of the same depth and light": 1.7 * crop("1/1.3")},
        "25 mm equiv f/1.7 1/1.3; 25 mm f/1.7 on a 1/1.3 inch phone sensor | 1/1.3 type 25mm f1.7",
    ),
    (
        "lens",
        {"focal length there": 24, "f-number of the same depth and light": 1.8 * crop("1/1.3")},
        "24 mm f/1.8 1/1.3 type; what is the 24 mm f/1.8 of a 1/1.3 phone worth | 24mm f1.8 phone 1/1.3",
    ),
    ("lens", {"focal length there": 24 * crop("1/1.3")}, "24 mm true f/1.8 1/1.3 type"),
    ("lens", {"focal length there": 120}, "120 mm f/2.8 1/2.55 type"),
    (
        "lens",
        lens(6.9, 1.8, "1/1.3"),
        "6.9 mm f/1.8 on a 1/1.3 type sensor; what is the full frame equivalent of 6.9 mm f/1.8 1/1.3 | 6.9/1.8 1/1.3",
    ),
    ("lens", lens(4.5, 2, "1/2.3"), "4.5 f/2 1/2.3 | 1/2.3 4.5 f2"),
    (
        "lens",
        lens(8.8, 1.8, "one"),
        '8.8 mm f/1.8 one-inch; what does 8.8 mm f/1.8 on a 1 inch sensor give | 8.8/1.8 1"',
    ),
    ("lens", {"view on Full frame": 24}, "24 mm phone; 24 mm f/1.8 phone camera"),
    (
        "lens",
        {"exposes like": 5.6},
        "300 f/4 with 1.4x ff; 300 mm f/4 plus a 1.4x teleconverter; 300mm f/4 + 1.4x | 300/4 1.4x tc",
    ),
    (
        "lens",
        {"focal length there": 300 * 2 * crop("mft"), "exposes like": 8},
        "300 mm f/4 with a 2x converter on mft | mft 300 f4 2x tc",
    ),
    (
        "lens",
        {"focal length there": 50 * 0.71 * crop("apsc"), "exposes like": 1.4 * 0.71},
        "50 f/1.4 with a 0.71x reducer on aps-c; 50 mm f/1.4 with 0.71x focal reducer aps-c | 50 1.4 0.71x aps-c",
    ),
    (
        "lens",
        {"as noisy as": 3200 * area("apsc") / area("ff")},
        "iso 3200 ff on aps-c; what iso on aps-c is as noisy as iso 3200 on full frame | iso3200 ff apsc",
    ),
    (
        "lens",
        {"as noisy as": 800 * area("ff") / area("mft")},
        "iso 800 mft equivalent ff; what is iso 800 on mft in full frame noise | iso 800 mft vs ff",
    ),
    (
        "lens",
        {"as noisy as": 1600 * area("mft") / area("ff")},
        "what iso on mft has the same noise as iso 1600 on full frame",
    ),
    (
        "lens",
        {"f-number of the same depth and light": 2.8 * crop("mft")},
        "what is f/2.8 on mft on ff; what aperture on full frame equals f/2.8 on mft | f2.8 mft in ff; f/2.8 m43 =",
    ),
    ("lens", lens(80, 1.9, "44"), "80 mm f/1.9 on 44x33; 80 f/1.9 medium format | 80/1.9 44x33"),
    ("lens", lens(80, 2.8, "66"), "80 mm f/2.8 on 6x6 | 6x6 80 2.8"),
    ("lens", lens(150, 5.6, "4x5"), "150 mm f/5.6 on 4x5; 150 f/5.6 large format | 4x5 150 5.6"),
    ("lens", lens(300, 5.6, "8x10"), "300 mm f/5.6 on 8x10"),
    (
        "lens",
        {"focal length there": 70 * crop("apsc"), "focal length there, long end": 300 * crop("apsc")},
        "70-300 f/4-5.6 on aps-c | apsc 70-300 4-5.6",
    ),
    ("lens", {"focal length there": 100}, "50 f/2 on ff, same lens on mft"),
    ("lens", lens(50, 1.8, "ff", "mft"), "Brennweite 50 mm f/1,8 Vollformat auf mft; 50 mm f/1,8 plein format sur mft"),
    (
        "lens",
        lens(85, 1.4, "ff", "mft"),
        "the same bokeh as 85 f/1.4 with mft; can i get the same picture as 85 f/1.4 ff with mft"
        " | same bokeh as 85 1.4 with m43",
    ),
    ("lens", lens(50, 1.8, "ff", "apsc"), "same depth of field as 50 mm f/1.8 with aps-c"),
    (
        "lens",
        {"focal length there": 26, "f-number of the same depth and light": 1.78 * 26 / 6.86},
        "6.86 mm (26 mm equivalent) f/1.78; f/1.78 6.86 mm on a phone, 26 mm equivalent | 6.86mm f1.78 26mm equiv",
    ),
    ("lens", {"focal length there": 26}, "crop factor from 26 mm equivalent and 6.86 mm"),
    # ---- lenses against each other
    (
        "lenses",
        {"A: focal length there": 25 * crop("mft"), "B: focal length there": 50},
        "25 f/1.4 mft vs 50 f/1.8 ff; 25 mm f/1.4 on mft compared to 50 mm f/1.8 on full frame | 25/1.4 m43"
        " v 50/1.8 ff; is 25 1.4 on mft the same as 50 1.8 on ff",
    ),
    (
        "lenses",
        {
            "A: focal length there": 56 * crop("apsc"),
            "B: focal length there": 85,
            "B: f-number of the same depth and light": 1.8,
        },
        "56 1.2 apsc vs 85 1.8; 56 mm f/1.2 aps-c against 85 mm f/1.8 | 56/1.2 apsc vs 85/1.8",
    ),
    (
        "lenses",
        {"A: focal length there": 400, "B: focal length there": 400 * crop("mft")},
        "400 mm 45 mp ff vs 20 mp mft | 400mm 45mp ff v 20mp m43",
    ),
    (
        "lenses",
        {"A: focal length there": 25 * crop("mft"), "B: focal length there": 20 * crop("mft")},
        "25 f/1.4 vs 20 f/1.7 on mft | mft 25 1.4 vs 20 1.7; 25/1.4 vs 20/1.7 mft",
    ),
    (
        "lenses",
        {
            "A: focal length there": 35,
            "B: focal length there": 23 * crop("apsc"),
            "C: focal length there": 17 * crop("mft"),
        },
        "35 f/1.4 ff vs 23 f/1.4 aps-c vs 17 f/1.2 mft | 35 1.4 ff vs 23 1.4 apsc vs 17 1.2 mft",
    ),
    (
        "lenses",
        {"A: focal length there": 25 * crop("mft"), "B: focal length there": 50},
        "does a 25mm f/1.4 on mft equal 50 on full frame",
    ),
    (
        "lenses",
        {"A: focal length there": 25 * crop("mft"), "B: focal length there": 85},
        "which has shallower depth of field 25 f/1.4 mft or 85 f/1.8 ff | shallower dof 25 1.4 m43 or 85 1.8 ff",
    ),
    (
        "lenses",
        {"A: f-number of the same depth and light": 2.8 * crop("mft"), "B: f-number of the same depth and light": 5.6},
        "is f/2.8 on mft f/5.6 on ff",
    ),
)
