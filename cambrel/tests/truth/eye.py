"""What a rig records, worked out anew in plain numbers from its settings: nothing here calls the core. Millimetres
unless a name says m.
"""

from itertools import pairwise
from math import acos, atan, degrees, hypot, inf, isinf, log2, nan, pi, radians, sin, sqrt, tan

from scipy.special import j1

from cambrel.tests.truth.sphere import worst

AIRY = 2 * 1.2196698912665045
PHOTONS = 1e-12 / (683 * 6.62607015e-34 * 540e12)
SHAPES = {"native": None, "3:2": 3 / 2, "4:3": 4 / 3, "1:1": 1.0, "16:9": 16 / 9, "4:5": 5 / 4}


def used_frame(width, height, shape, upright):
    """Sides of the frame in use."""
    long, short = max(width, height), min(width, height)
    if SHAPES[shape]:
        long, short = min(long, short * SHAPES[shape]), min(short, long / SHAPES[shape])
    return (short, long) if upright else (long, short)


def length(width, height, by):
    return {"diagonal": hypot(width, height), "width": width, "height": height, "area": sqrt(width * height)}[by]


class Eye:
    """One rig under a comparison, by its settings in force."""

    def __init__(self, comparison, index):
        self.index, self.is_first = index, index == comparison.reference
        self.brief, self.hold, self.terms = comparison.brief, comparison.hold, comparison.conventions
        self.rig, s = comparison.rigs[index], comparison.of(index).settings
        self.settings, self.focusable = s, s.focusable
        donor = comparison.reference if self.hold.lens_of is None else self.hold.lens_of
        self.carrier = comparison.rigs[donor] if self.hold.lens == "same" else self.rig
        self.lens, self.converter, self.body = self.carrier.lens, self.carrier.converter, self.rig.body
        sensor = self.body.sensor if self.rig.mode is None else self.body.modes[self.rig.mode].sensor
        self.shots = 1 if self.rig.mode is None else self.body.modes[self.rig.mode].frames
        self.w, self.h = used_frame(sensor.width_mm, sensor.height_mm, self.brief.shape, self.brief.upright)
        full = used_frame(36, 24, self.brief.shape, self.brief.upright)
        self.diagonal, self.area = hypot(self.w, self.h), self.w * self.h
        self.long = length(self.w, self.h, self.terms.crop_by)
        self.crop = length(*full, self.terms.crop_by) / self.long
        self.pitch = nan if sensor.pixels_wide is None else sensor.width_mm / sensor.pixels_wide
        # a picture put together of several has pixels as large as those of the sensor, more finely set
        own = self.body.sensor
        self.pixel = self.pitch if self.shots == 1 else own.width_mm / own.pixels_wide if own.pixels_wide else nan
        self.pixels = self._pixels(sensor)
        self.c = self._circle(hypot(*full))
        if self.focusable:
            self._look()

    def _pixels(self, sensor):
        if sensor.pixels_wide is None:
            return nan
        down = sensor.pixels_high or sensor.pixels_wide * sensor.height_mm / sensor.width_mm
        return sensor.pixels_wide * down * self.area / (sensor.width_mm * sensor.height_mm)

    def _circle(self, full_diagonal):
        enlarged = self.brief.shown_long_side_mm / max(self.w, self.h)
        return {
            "diagonal_1500": self.diagonal / 1500,
            "diagonal_1730": self.diagonal / 1730,
            "traditional": 0.03 * self.diagonal / full_diagonal,
            "print": self.brief.viewing_distance_mm / 250 / (self.terms.lines_per_mm * enlarged),
            "two_pixels": 2 * self.pitch,
        }[self.terms.criterion]

    def _look(self):
        s = self.settings
        self.f, self.n, self.t, self.iso = s.focal_length_mm, s.f_number, s.shutter_s, s.iso
        self.u, self.d = 1000 * s.object_distance_m, 1000 * s.subject_distance_m
        self.m = 0.0 if isinf(self.u) else self.f / (self.u - self.f)
        self.v = self.f * (1 + self.m)
        self.pupil, self.effective = self.f / self.n, self.n * (1 + self.m)
        self.wide, self.high = self.d * self.w / self.v / 1000, self.d * self.h / self.v / 1000
        self.near, self.far = self.limits(self.n)
        self.total = inf if isinf(self.far) else self.far - self.near
        behind = self.brief.background_m
        self.background = nan if behind is None else self.disc(self.d + 1000 * behind)
        self.exposure = 0.1 * 2.0**self.brief.light_ev * self.t / self.effective**2
        self.error = log2(self.exposure * self.iso / 10)
        self.airy = AIRY * self.terms.wavelength_nm * 1e-6 * self.effective
        self.circle = (
            nan if self.lens.image_circle_mm is None else self.lens.image_circle_mm * self.converter * (1 + self.m)
        )

    def half_contrast(self, without="", lens=None, moved=None):
        """Frequency [cycles/mm] at which half of the contrast at the subject is left, without one of the parts; by
        halving.
        """
        scale = 0.0 if without == "diffraction" else self.terms.wavelength_nm * 1e-6 * self.effective
        pixel = 0.0 if without == "pixels" or self.pitch != self.pitch else self.pixel
        disc = 0.0 if without == "defocus" else self.disc(self.d)
        moved = self.movement if moved is None else moved
        moved, shaken = (0.0, 0.0) if without == "motion" else (moved, self.shake)
        lens = nan if without == "lens" else self.lens_alone if lens is None else lens

        def left(v):
            s = v * scale
            value = 2 / pi * (acos(s) - s * sqrt(1 - s * s)) if s < 1 else 0.0
            for length in (pixel, moved, shaken):
                value *= sin(pi * v * length) / (pi * v * length) if length and v * length < 1 else not length
            if lens == lens:
                value *= 0.5 ** ((v / lens) ** 2)
            z = pi * v * disc
            return value * (2 * float(j1(z)) / z if 1e-9 < z < 3.8317 else z <= 1e-9)

        if not (scale or pixel or disc or moved or shaken or lens == lens):
            return inf
        low, high = 1e-12, 1e12
        for _ in range(200):
            middle = sqrt(low * high)
            low, high = (middle, high) if left(middle) > 0.5 else (low, middle)
        return low

    @property
    def lens_alone(self):
        """What the lens resolves by itself [cycles/mm], in stops between what is known; unknown beyond."""
        at = self.n / self.converter
        for (n1, v1), (n2, v2) in pairwise(self.lens.mtf50):
            if n1 * (1 - 1e-9) <= at <= n2 * (1 + 1e-9):
                return (v1 + (v2 - v1) * log2(at / n1) / log2(n2 / n1)) / self.converter
        return nan

    @property
    def lens_in_corner(self):
        """The same in the corner of the frame: in stops between f-numbers, straight between heights; unknown beyond
        what is known.
        """
        at, height = self.n / self.converter, self.diagonal / 2 / self.converter

        def in_stops(points):
            for (n1, v1), (n2, v2) in pairwise(points):
                if n1 * (1 - 1e-9) <= at <= n2 * (1 + 1e-9):
                    return v1 + (v2 - v1) * log2(at / n1) / log2(n2 / n1)
            return points[0][1] if len(points) == 1 and abs(points[0][0] / at - 1) < 1e-9 else nan

        heights = sorted({h for h, _, _ in self.lens.mtf50_away})
        known = [(0.0, in_stops(self.lens.mtf50) if self.lens.mtf50 else nan)]
        known += [(h, in_stops([(n, v) for at_h, n, v in self.lens.mtf50_away if at_h == h])) for h in heights]
        for (h1, v1), (h2, v2) in pairwise(known):
            if h1 <= height <= h2 * (1 + 1e-9):
                return (v1 + (v2 - v1) * (height - h1) / (h2 - h1)) / self.converter
        return nan

    @property
    def corner_lines(self):
        """Line widths per picture height in the corner, of what stands still at the subject's distance."""
        lens = self.lens_in_corner
        if lens != lens:
            return nan
        v = self.half_contrast(lens=lens, moved=0.0)
        return 2 * self.h * (v if self.pitch != self.pitch else min(v, 1 / (2 * self.pitch)))

    @property
    def largest_print(self):
        """Long side of the largest picture that is good enough by the school in force."""
        long, resolved = max(self.w, self.h), self.lines / (2 * self.h)
        if self.terms.good_enough == "pixels":
            return long / self.pitch / 300 * 25.4
        if self.terms.good_enough == "printer":
            return long * resolved * 2 / self.terms.press_lines_per_inch * 25.4
        eye = self.terms.lines_per_mm * 250 / self.brief.viewing_distance_mm
        return long * resolved / (eye if self.terms.good_enough == "strict_eye" else eye / 2)

    @property
    def room(self):
        """From the front of the lens to the subject [mm]: from the sensor to it, less the mount and the lens as long as
        it is there.
        """
        known = (self.body.register_mm, self.lens.length_mm)
        if None in known or self.converter != 1 or isinf(self.u):
            return nan
        out = 0.0 if self.lens.focuses_inside else self.v - self.f
        return self.d + self.v - self.body.register_mm - self.lens.length_mm - out

    @property
    def carried(self):
        """Weight of body, lens and what is between them; unknown where any of it is."""
        parts = (self.body.weight_g, self.lens.weight_g, self.carrier.converter_weight_g)
        return nan if None in parts else sum(parts)

    def longest_s(self):
        """As slow as the shutter may be: by what carries the camera, the subject, the stars, the picture and the
        body.
        """
        moved = self.movement / self.t
        ends = [self.held_s(self.steadied), self.brief.slowest_shutter_s or inf, self.slowest_s]
        ends.append(self.c / moved if moved and self.c == self.c else inf)
        if self.brief.declination_deg is not None:
            ends.append(self.points_s(self.f * worst(self, self.brief.declination_deg)))
        return min(inf if end != end else end for end in ends)

    @property
    def movement(self):
        """Streak of the moving subject on the sensor."""
        return self.brief.subject_speed_m_per_s * self.t * 1000 * self.v / self.d

    @property
    def steadied(self):
        """Stops that the stabilisers give: both together where the maker says so, else the larger."""
        body, lens = self.body.stabilisation_stops, self.lens.stabilisation_stops
        if lens and self.body.stabilisation_with_lens_stops is not None:
            return self.body.stabilisation_with_lens_stops
        return max(body or 0.0, lens or 0.0)

    def held_s(self, stops):
        """How long what carries the camera holds it still with so many stops, by the school in force; a hand where
        nobody said.
        """
        support = self.brief.support or "hand"
        if support == "tripod":
            return inf
        better = 2.0 ** (stops + {"monopod": 2, "gimbal": 3}.get(support, 0))
        if self.terms.hand == "typed":
            # until the hand has turned by the angle under which the circle of confusion is seen
            return inf if self.c != self.c else degrees(atan(self.c * better / self.v)) * 3600 / self.terms.shake_arc_s
        return better / (self.crop * self.f * {"habit": 1, "careful": 2}[self.terms.hand])

    @property
    def shake(self):
        """How far a point is carried on the sensor: by the circle of confusion in as long as the hand is still."""
        if self.brief.support in ("", "tripod"):
            return 0.0
        if self.terms.hand == "typed":
            better = 2.0 ** (self.steadied + {"monopod": 2, "gimbal": 3}.get(self.brief.support, 0))
            return self.v * tan(radians(min(89.1, self.terms.shake_arc_s * self.t / 3600))) / better
        return 0.0 if self.c != self.c else self.c * self.t / self.held_s(self.steadied)

    def points_s(self, worst_a_second):
        """How long stars are points by the school in force, of which the exact one goes by the worst drift in the
        frame.
        """
        rules = {"rule_500": 500, "rule_400": 400, "rule_300": 300}
        if self.terms.star_rule in rules:
            return rules[self.terms.star_rule] / (self.crop * self.f)
        if self.terms.star_rule == "aperture_pixel":
            return (35 * self.n + 30 * 1000 * self.pitch) / self.f
        return self.c / worst_a_second

    @property
    def slowest_s(self):
        """As slow as the body goes; a frame of film is no longer open than it lasts at 24 a second."""
        mode = None if self.rig.mode is None else self.body.modes[self.rig.mode]
        own = self.body.slowest_shutter_s or inf
        return own if mode is None or mode.frame_rate is None else min(own, 1 / min(mode.frame_rate, 24))

    @property
    def lines(self):
        """Line widths per picture height at the subject; the pixels hold half a cycle each at most."""
        v = self.half_contrast()
        return 2 * self.h * (v if self.pitch != self.pitch else min(v, 1 / (2 * self.pitch)))

    def disc(self, x, n=None):
        """Blur disc of a point at x [mm] on the sensor, A m |x - u| / x."""
        pupil = self.f / (n or self.n)
        if isinf(self.u):
            return 0.0 if isinf(x) else pupil * self.f / x
        return pupil * self.m if isinf(x) else pupil * self.m * abs(x - self.u) / x

    def limits(self, n):
        """Near and far limit [m]: where the disc is as large as the circle of confusion."""
        if self.c != self.c:
            return nan, nan
        if isinf(self.u):
            return self.f**2 / (n * self.c) / 1000, inf
        at_infinity = self.f / n * self.m
        near = at_infinity * self.u / (at_infinity + self.c)
        far = inf if at_infinity <= self.c * (1 + 1e-12) else at_infinity * self.u / (at_infinity - self.c)
        return near / 1000, far / 1000

    def f_number_for(self, near_mm, far_mm):
        """The f-number at which both discs are as large as the circle of confusion, the larger of the two."""
        return max(self.n * self.disc(x) / self.c for x in (near_mm, far_mm))

    @property
    def range(self):
        if self.lens.focal_min_mm is None:
            return 0.0, inf
        return self.lens.focal_min_mm * self.converter, self.lens.focal_max_mm * self.converter

    def widest(self, focal):
        """F-number wide open, in stops between the points that are given; 0.5 where none is."""
        points = self.lens.widest
        if not points:
            return 0.5 * self.converter
        at = focal / self.converter
        if at <= points[0][0]:
            return points[0][1] * self.converter
        for (f1, n1), (f2, n2) in pairwise(points):
            if at <= f2:
                share = log2(at / f1) / log2(f2 / f1)
                return n1 * (n2 / n1) ** share * self.converter
        return points[-1][1] * self.converter

    @property
    def smallest(self):
        return (self.lens.smallest_f_number or inf) * self.converter

    def snr_picture(self, exposure):
        """Signal to noise over the whole picture; with the pixels unknown without read noise."""
        known = self.pixels == self.pixels
        pixels = self.pixels if known else self.terms.output_pixels
        area = self.area * 1e6 / pixels
        signal = self.shots * PHOTONS * exposure * area * self.body.quantum_efficiency * 2.0**self.body.offset_stops
        noise = sqrt(signal + (self.read_noise if known else 0.0) ** 2)
        return signal / noise * sqrt(pixels / self.terms.output_pixels)

    @property
    def read_noise(self):
        """Of a pixel of the picture: each of the sensor's that went into it was read once a shot."""
        each = self.shots * (self.pitch / self.pixel) ** 2 if self.shots > 1 and self.pixel == self.pixel else 1
        return self.body.read_noise_e * sqrt(each)

    def snr_pixel(self, exposure=None):
        """Signal to noise of one pixel; unknown without pixels."""
        exposure = self.exposure if exposure is None else exposure
        return self.snr_picture(exposure) / sqrt(self.pixels / self.terms.output_pixels)

    def snr(self, exposure=None):
        """Signal to noise as the school in force judges it."""
        exposure = self.exposure if exposure is None else exposure
        return self.snr_pixel(exposure) if self.terms.noise == "pixel" else self.snr_picture(exposure)

    @property
    def noise(self):
        """What is seen of it: 40 is excellent, 10 acceptable."""
        snr = self.snr()
        return (
            "not known"
            if snr != snr
            else "clean"
            if snr >= self.terms.seen_snr
            else "seen"
            if snr >= self.terms.disturbing_snr
            else "disturbing"
        )

    def iso_as_noisy_as(self, snr):
        """ISO at which this rig's picture has a signal to noise ratio by the school in force, by halving."""
        if snr != snr or self.snr(1.0) != self.snr(1.0):
            return nan
        low, high = 1e-30, 1e30
        for _ in range(400):
            middle = sqrt(low * high)
            low, high = (middle, high) if self.snr(middle) < snr else (low, middle)
        return 10 / low
