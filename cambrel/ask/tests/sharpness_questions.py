"""Questions about what is sharp: depth, close up, diffraction."""

from math import log2

from cambrel.ask.tests.by_hand import (
    airy,
    blur,
    crop,
    diagonal,
    hyperfocal,
    pitch,
    sharp,
)

QUESTIONS = (
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
)
