"""Questions with the figures that answer them, by kind: each answer with the ways in which it is asked for. Those
behind a bar are misspelt, terse or put the other way round.
"""

from math import hypot, log2, radians, sqrt, tan

from cambrel.ask.tests.by_hand import (
    SIZES,
    airy,
    angles,
    area,
    blur,
    crop,
    diagonal,
    field,
    fits,
    hyperfocal,
    lens,
    lens_for,
    pitch,
    sharp,
    stops,
)

FF, MFT, APSC = SIZES["ff"], SIZES["mft"], SIZES["apsc"]

TABLE = (
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
    # ---- formats
    (
        "format",
        {"width": 13.2, "height": 8.8, "crop factor": crop("one")},
        'how big is a one-inch sensor; crop factor of a 1 inch sensor; wie groß ist ein 1 zoll sensor | 1"'
        " crop; 1 inch sensor size; one inch",
    ),
    (
        "format",
        {"diagonal": diagonal("1/2.3"), "crop factor": crop("1/2.3")},
        "crop factor of 1/2.3; how large is a 1/2.3 inch sensor | 1/2.3 crop; crop of 1/2.3; crop facter"
        " 1/2.3; 1/2.3 type",
    ),
    (
        "format",
        {
            "diagonal": diagonal("mft"),
            "crop factor": crop("mft"),
            "light against full frame": log2(area("mft") / area("ff")),
        },
        "how big is micro four thirds; crop factor of mft; what is the diagonal of a micro four thirds"
        " sensor | mft; m43 crop; sensor size mft; dimensions mft",
    ),
    (
        "format",
        {"area": area("apsc"), "crop factor": crop("apsc")},
        "area of an aps-c sensor; size of aps-c | apsc size; aps-c dimensons",
    ),
    (
        "format",
        {"diagonal": diagonal("44"), "crop factor": crop("44")},
        "how big is 44x33; crop factor of 44 x 33 mm | 44x33 crop",
    ),
    (
        "format",
        {"diagonal": hypot(36, 24), "area": 864},
        "sensor size full frame; how large is full frame; taille du capteur plein format | ff size; 36x24",
    ),
    ("format", {"crop factor": crop("66")}, "how big is 6x6; crop factor of 6x6 film | 6x6"),
    ("format", {"crop factor": crop("8x10"), "width": 254}, "how big is 8x10 | 8x10"),
    ("format", {"crop factor": crop("69")}, "crop factor of 6x9"),
    ("format", {"crop factor": 2, "diagonal": hypot(36, 24) / 2}, "2x crop"),
    ("format", {"crop factor": 0.79}, "0.79 crop"),
    (
        "formats",
        {
            "stops: full frame, Micro Four Thirds": stops(area("ff") / area("mft")),
            "area: full frame, Micro Four Thirds": area("ff") / area("mft"),
        },
        "stops ff to mft; how much more light does full frame gather than mft; full frame vs micro four"
        " thirds; is full frame 2 stops better than mft | ff mft stops; mft vs ff; light diference ff mft;"
        " how much bigger is ff than mft",
    ),
    (
        "formats",
        {"area: full frame, APS-C": area("ff") / area("apsc"), "crop factor: full frame, APS-C": crop("apsc")},
        "area of full frame against aps-c; how many times larger is full frame than aps-c; difference"
        " between full frame and aps-c | ff vs apsc; apsc to ff",
    ),
    (
        "formats",
        {"stops: Micro Four Thirds, a one-inch sensor": stops(area("mft") / area("one"))},
        "difference between 1 inch and mft in stops; which is bigger, a one-inch sensor or mft | 1 inch vs mft",
    ),
    (
        "formats",
        {"stops: APS-C, a 1/1.3 type sensor": stops(area("apsc") / area("1/1.3"))},
        "how many stops between 1/1.3 and aps-c | 1/1.3 vs apsc",
    ),
    (
        "formats",
        {"area: medium format 44 x 33, full frame": area("44") / area("ff")},
        "44x33 vs ff; how much larger is medium format than full frame; how much more light does medium format get"
        " than full frame at the same f-number",
    ),
    (
        "formats",
        {
            "stops: full frame, APS-C": stops(area("ff") / area("apsc")),
            "stops: APS-C, Micro Four Thirds": stops(area("apsc") / area("mft")),
        },
        "full frame vs aps-c vs mft",
    ),
    (
        "pixel-size",
        {"pixel pitch": pitch(24, "apsc")},
        "pixel size of 24 mp aps-c; how big are the pixels of 24 megapixels on aps-c | 24mp apsc pixel pitch",
    ),
    ("pixel-size", {"pixel pitch": pitch(61, "ff")}, "pixel pitch 61 mp full frame | 61mp ff pixel size"),
    ("pixel-size", {"megapixels": area("mft") / 3.3**2}, "3.3 µm pixels on mft, how many megapixels"),
    (
        "covers",
        {"circle that it has to light": diagonal("apsc"), "diagonal to be covered": diagonal("ff")},
        "does an aps-c lens cover full frame; will an aps-c lens cover full frame | apsc lens covers ff",
    ),
    (
        "normal",
        {"focal length": diagonal("mft")},
        "normal lens for mft; what is a normal focal length on mft | mft normal lens; standard lens m43",
    ),
    ("normal", {"focal length": diagonal("67")}, "normal lens on 6x7"),
    # ---- angle and field
    (
        "angle",
        angles(35, "apsc"),
        "angle of view of 35 mm on aps-c; what angle does 35 mm on aps-c see; bildwinkel 35 mm aps-c; angle"
        " de champ 35 mm aps-c | aov 35 apsc; 35mm apsc fov; fov of 35 on apsc",
    ),
    (
        "angle",
        angles(24, "ff"),
        "fov 24 mm ff; what's the horizontal field of view of 24mm on full frame; how wide is 24 mm | 24mm aov",
    ),
    ("angle", angles(14, "mft"), "how wide is a 14mm on mft | 14 mft angle"),
    (
        "focal-for-angle",
        {"focal length, diagonal": diagonal("mft") / 2 / tan(radians(42))},
        "which focal length sees 84 degrees on mft; what lens gives 84° on mft | 84 deg mft; 84° m43 focal lenght",
    ),
    (
        "focal-for-angle",
        {"focal length, width": 36 / 2 / tan(radians(37))},
        "focal length for 74 degrees horizontally on full frame | 74° horizontal ff",
    ),
    (
        "field",
        {"field, width": field(24, 5, 36), "field, height": field(24, 5, 24)},
        "how wide does 24 mm ff see at 5 m; field of view of 24 mm on full frame at 5 m | 24 ff fov 5m; fov"
        " at 5 m 24mm ff",
    ),
    ("field", {"field, width": field(400, 50, 17.3)}, "how much does 400 mm on mft see at 50 m | fov 400 mft 50m"),
    ("field", {"field, width": field(50, 8 * 0.3048, 36)}, "field of view of 50 mm ff at 8 ft"),
    (
        "distance-to-fit",
        {"distance, along the width": fits(50, 3, 23.5)},
        "3 m engine with 50 on aps-c; how far to fit a 3 m engine with 50 mm on aps-c; how far away do I"
        " have to stand to get a 3 m engine in with 50 mm on aps-c | 3m engine 50mm apsc; with 50 on apsc"
        " how far for a 3 m engine; 50mm apsc fit 3 m",
    ),
    (
        "distance-to-fit",
        {"distance, along the height": fits(85, 1.75, 24), "distance, along the width": fits(85, 1.75, 36)},
        "how far to fit a person with 85 mm ff; how far away must a person stand to fit with 85 mm on full"
        " frame | person 85 ff how far",
    ),
    (
        "distance-to-fit",
        {"distance, along the height": fits(24, 20, 24)},
        "how far from a 20 m tall church with 24 mm | 20 m high tower 24mm",
    ),
    (
        "distance-to-fit",
        {"distance, along the width": fits(300, 0.3, 17.3)},
        "how close must I be to fill the frame with a 30 cm bird with 300 mm on mft | 30cm bird 300mm mft fill frame",
    ),
    (
        "focal-to-fit",
        {"focal length, along the width": lens_for(3, 10, 17.3)},
        "which lens for a 3 m engine at 10 m on mft; what focal length fits a 3 m engine from 10 m on mft |"
        " 3 m engine at 10 m mft; from 10 m a 3 m engine on m43",
    ),
    (
        "focal-to-fit",
        {"focal length, along the height": lens_for(1.75, 5, 24)},
        "focal length for a person at 5 m on full frame",
    ),
    # ---- depth
    (
        "depth",
        sharp(85, 1.8, 2, "ff"),
        "dof 85 mm f/1.8 ff at 2 m; depth of field of 85 mm f/1.8 on full frame focused at 2 m;"
        " Schärfentiefe 85 mm f/1,8 bei 2 m Vollformat | dof 85 1.8 2m; 85/1.8 @ 2m dof; at 2 m how deep is"
        " 85 mm f/1.8 sharp; ff 85 1.8 2m dof",
    ),
    (
        "depth",
        sharp(50, 2, 3, "ff"),
        "profondeur de champ 50 mm f/2 à 3 m plein format; profundidad de campo 50 mm f/2 a 3 m; profondità"
        " di campo 50 mm f/2 a 3 m | 50 f2 3 m dof",
    ),
    (
        "depth",
        sharp(25, 1.4, 1.5, "mft"),
        "what is in focus with 25 mm f/1.4 on mft at 1.5 m; how much is sharp at 1.5 m with 25 f/1.4 mft |"
        " dof 25 1.4 m43 150 cm; mft dof 25/1.4 1.5m",
    ),
    ("depth", sharp(50, 1.8, 8 * 0.3048, "ff"), "depth of field 50 mm f/1.8 at 8 ft | 8 ft 50 1.8 ff dof"),
    ("depth", sharp(50, 2, (6 + 7 / 12) * 0.3048, "ff"), "dof 50 mm f/2 ff at 6'7\""),
    ("depth", sharp(50, 2, 15 * 0.0254, "ff"), "dof 50 mm f/2 ff at 15 in"),
    ("depth", sharp(24, 8, 3, "ff"), "near limit of 24 mm f/8 ff focused at 3 m | 24 f8 3 m sharp from"),
    (
        "depth-close",
        {"depth of field": 2 * 8 * diagonal("mft") / 1500 * 2 / 1000},
        "depth of field at 1:1 f/8 mft | dof macro 1:1 f8 mft",
    ),
    (
        "depth-close",
        {"depth of field": 2 * 32 * 0.02884 * 1.1 / (0.01 - (32 * 0.02884 / 50) ** 2) / 1000},
        "depth of field of 50 mm at 1:10 f/32 ff",
    ),
    (
        "hyperfocal",
        hyperfocal(24, 8, "ff"),
        "hyperfocal 24 mm f/8 ff; hyperfocal distance of 24 mm at f/8; hyperfokale Distanz 24 mm f/8;"
        " distance hyperfocale 24 mm f/8; distancia hiperfocal 24 mm f/8; distanza iperfocale 24 mm f/8 |"
        " hyperfocal 24 f8; hyperfcal 24 mm f/8; 24/8 hyperfocal; hyprfocal distance 24mm f8",
    ),
    (
        "hyperfocal",
        hyperfocal(12, 4, "mft"),
        "hyperfocal distance of 12 mm f/4 on micro four thirds; where do I focus 12 mm f/4 mft for"
        " hyperfocal | mft hyperfocal 12 4",
    ),
    (
        "blur",
        blur(85, 1.4, 2, "ff", 5),
        "background blur of 85 mm f/1.4 ff at 2 m, background 5 m behind; how blurred is a background 5 m"
        " behind with 85 mm f/1.4 ff at 2 m | blur 85 1.4 ff 2m background 5m; backgroud blur 85 mm f/1.4"
        " ff at 2 m, 5 m behind",
    ),
    (
        "blur",
        blur(56, 1.2, 1.5, "apsc"),
        "bokeh of 56 mm f/1.2 on aps-c at 1.5 m | bokeh 56 1.2 apsc 1.5m; blur 56/1.2 apsc at 1.5 m",
    ),
    (
        "pupil",
        {"entrance pupil": 85 / 1.4},
        "entrance pupil of 85 mm f/1.4; how large is the opening of 85 mm f/1.4 | pupil 85 1.4; entrence"
        " pupil 85 mm f/1.4",
    ),
    # ---- close up
    (
        "circle",
        {"diagonal / 1500": diagonal("mft") / 1500, "0.030 mm on full frame": 0.03 / crop("mft")},
        "circle of confusion mft; what is the circle of confusion on mft | coc m43; circle of confusoin mft",
    ),
    ("ev", {"exposure value at ISO 100": log2(16 * 250) - 2}, "1/250 iso 400 f4 ev"),
    ("circle", {"two pixels": 2e-3 * pitch(24, "ff")}, "coc 24 mp ff; circle of confusion for 24 mp full frame"),
    (
        "depth-formats",
        {
            "framed alike: Micro Four Thirds, full frame": crop("mft"),
            "one lens from one place: Micro Four Thirds, full frame": 1 / crop("mft"),
        },
        "depth of field mft against full frame; does mft have more depth of field than full frame | dof m43 vs ff",
    ),
    (
        "tube",
        {"length of the tube": 25, "light lost": 2 * log2(1.5), "distance from the lens": 0.15},
        "extension tube for 1:2 with 50 mm; how long an extension tube for 1:2 with a 50 mm lens | tube 1:2 50mm",
    ),
    (
        "tube",
        {"magnification": 0.5, "distance from the lens": 0.15},
        "magnification of a 25 mm tube on 50 mm; what is the magnification of a 50 mm lens with a 25 mm extension tube"
        " | 25mm tube 50mm lens; 50mm with tube of 25mm",
    ),
    ("tube", {"magnification": 0.36}, "magnification of a 36 mm extension tube on a 100 mm lens"),
    ("depth", sharp(90, 11, 1, "apsc"), "dof at 1 m 90 mm macro f/11 aps-c | dof 1m 90mm macro f11 apsc"),
    (
        "effective",
        {"effective f-number": 5.6, "light lost": 2},
        "effective aperture of f/2.8 at 1:1; effective f-number at 1:1 of f/2.8 | efective aperture f/2.8"
        " 1:1; f2.8 1:1 effective",
    ),
    ("effective", {"light lost": 2 * log2(1.5)}, "light lost at 1:2; how much light is lost at 1:2 | light loss 1:2"),
    (
        "macro",
        {"full-frame magnification": crop("mft"), "distance from the lens": 0.12},
        "60 mm macro 1:1 mft; what is 1:1 with a 60 mm macro on mft | mft 60 macro 1:1; 1:1 mft 60mm",
    ),
    ("macro", {"magnification there": crop("mft")}, "60 macro 1:1 mft in full frame terms"),
    (
        "macro",
        {"distance from the lens": 0.2, "distance from the sensor": 0.4},
        "how close is 1:1 with 100 mm | 100 mm 1:1 how far",
    ),
    (
        "macro",
        {"full-frame magnification": 0.5 * crop("apsc"), "width shown": 47},
        "1:2 on aps-c | apsc 1:2 macro; 0.5x macro aps-c",
    ),
    (
        "magnification",
        {"magnification": 100 / 400},
        "magnification of 100 mm at 0.5 m | 100mm 50cm magnification; magnificaton 100 mm at 50 cm",
    ),
    # ---- diffraction
    (
        "diffraction",
        {"limit in the print": 1000 * diagonal("mft") / 1500 / airy(1)},
        "diffraction limit mft; from which aperture does diffraction show on mft; at what aperture does"
        " diffraction start on mft; Beugungsgrenze mft | mft diffraction; difraction limit mft; m43 diffraction limit",
    ),
    (
        "diffraction",
        {
            "limit in the print": 1000 * diagonal("ff") / 1500 / airy(1),
            "limit at two pixels": 2 * pitch(45, "ff") / airy(1),
        },
        "diffraction limit 45 mp ff; when does diffraction start on a 45 megapixel full frame | 45mp ff diffraction;"
        " ff diffraction f stop 45mp",
    ),
    ("diffraction", {"Airy disc": airy(16)}, "does f/16 show diffraction on mft | f16 mft diffraction"),
    (
        "airy",
        {"Airy disc": airy(8)},
        "airy disc at f/8; how large is the airy disc at f/8 | airy f8; airy disk diameter f/8",
    ),
    # ---- shutter
    (
        "hand",
        {"slowest shutter": 1 / (200 * crop("mft"))},
        "slowest handheld shutter 200 mm mft; slowest shutter speed for 200 mm on mft by hand; 200 mm mft à"
        " main levée | handheld 200 mft; mft 200mm hand held; minimum shutter 200 mm m43",
    ),
    (
        "hand",
        {"slowest shutter": 32 / 300},
        "handheld 300 mm ff 5 stops ibis; how slow can I hold 300 mm on full frame with 5 stops of"
        " stabilisation | 300 ff ibis 5 stops handheld; handheld 300mm 5 stop ibis ff",
    ),
    ("hand", {"slowest shutter": 1 / 85}, "handheld 85mm ff; can i hand hold 85 mm at 1/125 on full frame"),
    (
        "stars",
        {"the 500 rule": 25, "the 300 rule": 15},
        "500 rule 20 mm ff; 500 rule for 20 mm on full frame; how long can I expose stars with 20 mm on"
        " full frame | stars 20 ff; 20mm ff star trails",
    ),
    (
        "stars",
        {"by aperture and pixel": (35 * 2.8 + 30 * pitch(24, "ff")) / 14},
        "how long for stars with 14 mm f/2.8 24 mp ff; npf rule 14 mm f/2.8 24 mp ff | stars 14 2.8 24mp ff",
    ),
    (
        "stars",
        {"the 500 rule": 500 / (12 * crop("mft"))},
        "milky way with 12 mm on mft; sterne 12 mm mft | mft 12 stars",
    ),
    # ---- exposure
    (
        "stops-f",
        {"stops": 2 * log2(4 / 2.8)},
        "stops between f/2.8 and f/4; how many stops from f/2.8 to f/4; what's the difference between f/2.8"
        " and f/4 in stops | f2.8 to f4; f/2.8 vs f/4",
    ),
    (
        "stops-f",
        {"stops": 2 * log2(2.8 / 1.4)},
        "how much brighter is f/1.4 than f/2.8; f/1.4 to f/2.8 how many stops | f1.4 f2.8 stops",
    ),
    (
        "stops-time",
        {"stops": log2(250 / 60)},
        "1/60 to 1/250; how many stops from 1/60 to 1/250; stops between 1/250 and 1/60 | 1/60 vs 1/250",
    ),
    (
        "stops-iso",
        {"stops": 5},
        "stops from iso 100 to iso 3200; how many stops between iso 100 and iso 3200; iso 100 to 3200 | iso"
        " 3200 vs iso 100; iso100 iso3200 stops",
    ),
    (
        "ev",
        {"exposure value at ISO 100": log2(64 * 125)},
        "ev of f/8 1/125; what ev is f/8 at 1/125; exposure value of f/8 and 1/125 | f8 1/125 ev",
    ),
    (
        "ev",
        {"exposure value at ISO 100": log2(5.6**2 * 250) - 2},
        "exposure value of f/5.6 at 1/250 iso 400 | iso 400 f5.6 1/250 ev",
    ),
    (
        "settings",
        {"shutter time": 64 / 2**12},
        "shutter at ev 12 f/8; which shutter speed at ev 12 and f/8 | ev12 f8 shutter; ev 12 f/8",
    ),
    ("settings", {"f-number": sqrt(2**15 / 500)}, "aperture at ev 15 and 1/500 | ev15 1/500"),
    ("light", {"shutter time at f/8": 64 / 2**12}, "ev 12; how bright is ev 12"),
    ("filter", {"stops": 6}, "nd64; how many stops is nd64; how many stops does an nd64 filter take | nd 64 stops"),
    ("filter", {"stops": log2(1000)}, "nd1000; nd 3.0; how many stops is an nd1000 filter"),
    (
        "filter",
        {"shutter time": 1024 / 60},
        "10 stop filter 1/60; 1/60 with a 10 stop nd filter; how long with a 10 stop nd at 1/60 | 10 stop"
        " nd 1/60; 1/60 10-stop filter",
    ),
    ("filter", {"shutter time": 64 / 125}, "1/125 with nd64 | nd64 1/125"),
    ("filter-for", {"stops": log2(1800), "factor": 1800}, "which nd filter makes 30 s of 1/60 | nd for 1/60 to 30s"),
    ("filter", {"stops": 3}, "nd8 stops; how many stops is nd 0.9"),
    (
        "stops-from",
        {"stopped down": 8, "opened up": 1},
        "3 stops from f/2.8 | f/2.8 plus 3 stops; stop down f/2.8 by 3 stops",
    ),
    ("stops-from", {"slower": 4 / 250}, "2 stops slower than 1/250 | 1/250 2 stops slower"),
    (
        "in-frame",
        {"of the frame’s height": 0.3 / field(400, 20, 13)},
        "how large is a 30 cm bird at 20 m with 400 mm on mft | 30cm bird 20m 400mm mft size",
    ),
    (
        "depth",
        sharp(24 / crop("1/1.3"), 1.8, 1, "1/1.3"),
        "dof 24 mm equiv f/1.8 1/1.3 at 1 m; depth of field of a phone of 24 mm f/1.8 1/1.3 at 1 m | dof"
        " 24mm f1.8 1/1.3 1m",
    ),
    ("depth", sharp(24, 1.8, 1, "1/1.3"), "dof 24 mm true f/1.8 1/1.3 at 1 m"),
    ("hand", {"slowest shutter": 1 / 400}, "handheld 400 mm equivalent 1 inch"),
    ("angle", angles(24, "ff"), "what is the field of view of my 24 mm phone"),
    ("lens", lens(25, 1.4, "mft"), "kleinbild äquivalent 25 mm f/1,4 mft; équivalent plein format 25 mm f/1,4 mft"),
    ("polariser", {"stops": 1.5}, "how many stops does a polariser take | polarizer stops"),
    ("crop-to", {"megapixels left": 45 * area("mft") / area("ff")}, "45 mp cropped to mft"),
    (
        "f-number-for-depth",
        {"f-number": 85**2 / (diagonal("ff") / 1500 * 1915 * (10 + sqrt(101)))},
        "which f-number for 20 cm depth of field with 85 mm at 2 m; what aperture gives a depth of field of"
        " 20 cm with 85 mm ff at 2 m | 85mm 2m 20 cm dof f-number",
    ),
    ("converter", {"stops": 2 * log2(1.4)}, "how many stops does a 1.4x teleconverter cost | light loss 1.4x"),
    ("converter", {"stops": 2, "f-number with it": 8}, "how much light is lost with a 2x converter at f/4"),
    ("lens", {"exposes like": 5.6}, "1.4x on 500 f4 | teleconverter 1.4x 500 f/4"),
    ("lens", {"exposes like": 1.4 * 0.71}, "0.71x 35 f/1.4 mft"),
    ("lens", lens(4.2, None, "1/2.55"), "equivalent focal length of 4.2 mm on 1/2.55"),
    ("lens", lens(50, None, "ff", "apsc"), "which lens gives a 50 mm look on aps-c"),
    ("lens", lens(35, None, "ff", "apsc"), "how do i get 35 mm field of view on aps-c"),
    ("hand", {"slowest shutter": 1 / 85}, "is 1/60 fast enough for 85 mm ff"),
    (
        "focal-to-fit",
        {"focal length, along the height": lens_for(0.6, 4, 15.6)},
        "focal length for a person head and shoulders at 4 m on aps-c",
    ),
    ("field", {"field, width": field(14, 6, 36)}, "what will 14 mm capture at 6 m on full frame"),
    ("angle", angles(200, "ff"), "how many degrees does 200 mm ff see; diagonal fov 200 mm ff"),
    ("stars", {"the 500 rule": 500 / 24}, "star trails 24 mm ff 30 s"),
    (
        "lenses",
        {"A: focal length there": 500, "B: focal length there": 500 * crop("apsc")},
        "45mp ff vs 26mp apsc at 500mm",
    ),
    ("hand", {"slowest shutter": 8 / (200 * crop("mft"))}, "shutter for 200mm mft with 3 stops"),
    ("hand", {"slowest shutter": 16 / 50}, "can i shoot 1/15 with 50 mm ff and 4 stops"),
    ("format", {"width": 17.3}, "how wide is a micro four thirds sensor in mm; width of a micro four thirds sensor"),
    ("format", {"area": area("mft")}, "mft sensor area mm2"),
    ("covers", {"circle that it has to light": diagonal("ff")}, "image circle for full frame"),
    ("light", {"shutter time at f/8": 64 / 2**12 / 4}, "light value 12 at iso 400"),
    ("sunny", {"shutter time": 1 / 400}, "sunny 16 at iso 400; sunny 16 rule iso 400 | sunny 16 iso400"),
    (
        "flash",
        {"distance": 5},
        "guide number 40 at f/8; how far does a flash of guide number 40 reach at f/8 | gn 40 f8; gn40 f/8",
    ),
    # ---- prints and pixels
    (
        "print",
        {"long side": 6000 / 300 * 25.4},
        "how big can i print 24 mp; how large can I print 24 megapixels; 24 mp at 300 dpi; print size of 24"
        " megapixels | 24mp print; print 24 mp 300dpi; 24 mp largest print; 6000 x 4000 px print",
    ),
    ("print", {"long side": sqrt(45e6 * 1.5) / 240 * 25.4}, "print size 45 megapixels 240 dpi | 45mp 240 ppi"),
    (
        "paper",
        {"megapixels": 60 * 40 * (300 / 2.54) ** 2 / 1e6},
        "megapixels for a 60 x 40 cm print; how many megapixels for a 60 x 40 cm print; pixels needed for"
        " 60x40 cm at 300 dpi | 60x40cm 300dpi; 60x40 cm print mp",
    ),
    ("paper", {"megapixels": 7.2}, "how many megapixels for an 8x10 print at 300 dpi | 8x10 print 300 dpi"),
    ("paper", {"megapixels": 297 * 210 * (300 / 25.4) ** 2 / 1e6}, "megapixels for A4 at 300 dpi | A4 300dpi"),
    (
        "print-dots",
        {"pixels to the inch": (20e6 * 13 / 17.3) ** 0.5 / 400 * 25.4},
        "20 mp mft printed at 40 x 50 cm",
    ),
    ("print-dots", {"pixels to the inch": min(6000 / 594, 4000 / 420) * 25.4}, "24 mp printed at A2 | 24mp A2 print"),
    (
        "pixels-on",
        {"pixels on the subject": 0.3 * field(400, 20, 1) ** -1 / pitch(20, "mft") * 1000},
        "pixels on a 30 cm bird at 20 m with 400 mm 20 mp mft; how many pixels on a 30 cm bird at 20 m with"
        " 400 mm on 20 mp mft | 30cm bird 20m 400mm 20mp mft pixels",
    ),
    (
        "crop-to",
        {"megapixels left": 45 * area("apsc") / area("ff")},
        "45 mp ff cropped to aps-c; how many megapixels are left when cropping 45 mp full frame to aps-c;"
        " 45 mp full frame in aps-c crop | 45mp ff crop to apsc; croped 45 mp ff to aps-c",
    ),
    ("crop-by", {"megapixels left": 24 / 2.25}, "24 mp crop 1.5x; 24 megapixels cropped by 1.5x | 24mp 1.5 crop"),
    ("crop-by", {"megapixels left": 6}, "24 mp cropped to 50 % | 24mp cropped 50%"),
    (
        "moon",
        {"on the sensor": 400 * 2 * tan(radians(0.259))},
        "how big is the moon at 400 mm mft; size of the moon with 400 mm on mft; mond 400 mm mft | moon 400"
        " mft; 400mm m43 moon size",
    ),
    (
        "moon",
        {"pixels across": 600 * 2 * tan(radians(0.259)) * 1000 / pitch(24, "ff")},
        "moon with 600 mm full frame 24 mp",
    ),
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
