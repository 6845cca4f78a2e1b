"""Questions about light and time, and about pixels."""

from math import log2, radians, sqrt, tan

from cambrel.ask.tests.by_hand import (
    angles,
    area,
    crop,
    diagonal,
    field,
    lens,
    lens_for,
    pitch,
    sharp,
)

QUESTIONS = (
    # ---- films
    (
        "film-shutter",
        {"shutter time": 1 / 50},
        "shutter at 25 fps; shutter speed for 180 degrees at 25 fps; what shutter speed for 25 frames per second"
        " | 25fps shutter; 180° 25 fps; shutter speed video 25 fps",
    ),
    ("film-shutter", {"shutter time": 1 / 48}, "shutter at 24 frames a second; 180 degree shutter at 24 fps | 24 fps"),
    ("film-shutter", {"shutter time": 90 / 360 / 50}, "shutter for 90 degrees at 50 fps | 90 deg 50fps"),
    (
        "film-shutter",
        {"shutter time": 1 / 48, "ISO that the light asks for": 100 * 4**2 * 48 / 2**15},
        "180 degrees at 24 fps f/4 EV 15 iso 100; what nd filter for 24 fps at f/4 iso 100 in EV 15 | 24fps f4 ev15"
        " iso100 nd",
    ),
    ("film-angle", {"shutter angle": 180}, "shutter angle of 1/50 at 25 fps; what shutter angle is 1/50 at 25 fps"),
    ("film-angle", {"shutter angle": 86.4}, "angle of 1/100 at 24 fps | 1/100 24fps angle"),
    ("film-angle", {"longest": 1 / 50}, "1/25 at 50 fps; can i film at 50 fps with 1/25"),
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
