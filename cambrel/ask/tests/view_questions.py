"""Questions about formats, and what a lens sees on them."""

from math import hypot, log2, radians, tan

from cambrel.ask.tests.by_hand import (
    angles,
    area,
    crop,
    diagonal,
    field,
    fits,
    lens_for,
    pitch,
    stops,
)

QUESTIONS = (
    # ---- bags and costs
    (
        "volume",
        {"volume": 1.34 * 0.98 * 0.7},
        "how many litres is 134 x 98 x 70 mm; volume of 13.4 x 9.8 x 7 cm; how much room does a camera of 134 x 98 x 70"
        " mm take | 134x98x70mm litres; volume 134 by 98 by 70 mm",
    ),
    (
        "bag",
        {"filled": 1.34 * 0.98 * 0.7 / 9},
        "does 134 x 98 x 70 mm fit a bag of 300 x 200 x 150 mm; will a camera of 134 x 98 x 70 mm fit in a 30 x 20 x 15"
        " cm bag | bag 300x200x150mm 134x98x70mm",
    ),
    (
        "bag",
        {"filled": (1.34 * 0.98 * 0.7 + 0.8 * 0.8 * 1.2) / 9},
        "do 134 x 98 x 70 mm and 120 x 80 x 80 mm fit a bag of 300 x 200 x 150 mm",
    ),
    (
        "rent",
        {"days that cost as much": 30},
        "rent at 40 EUR a day or buy for 1200 EUR; should i rent for € 40 per day or buy for € 1,200"
        " | rent 40€ buy 1200€",
    ),
    (
        "after-selling",
        {"left to pay": 900},
        "buy for 1500 EUR and sell mine for 600 EUR; 1500 euros after selling mine for 600 euros | sell 600€ buy 1500€",
    ),
    ("after-selling", {"left to pay": -100}, "sell for £ 600 and buy for £ 500"),
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
)
