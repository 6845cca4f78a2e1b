"""Whether every rig took the settings that the hold asks for, as far as lens and body go: each judged anew, one rig at
a time, in plain numbers.
"""

from math import inf, isfinite, isinf, isnan

CLOSE = 1e-9
LARGEST = 256.0


def same(a, b, level=CLOSE):
    """Equal to within rounding; two unknowns and two infinities are equal."""
    if isnan(a) or isnan(b):
        return isnan(a) and isnan(b)
    if isinf(a) or isinf(b):
        return a == b
    return abs(a - b) <= level * max(abs(a), abs(b), 1e-12)


def within(value, low, high):
    return min(max(value, low), high)


def image_mm(focal_mm, focus_m):
    return focal_mm if isinf(focus_m) else focal_mm / (1 - focal_mm / (1000 * focus_m))


class Judge:
    """The settings of one comparison against its hold."""

    def __init__(self, comparison, eyes):
        self.all, self.eyes, self.wrong = comparison, eyes, []
        self.brief, self.hold = comparison.brief, comparison.hold
        self.first = eyes[comparison.reference]
        s = self.first.settings
        self.offset = s.wanted_object_distance_m - s.wanted_distance_m
        self.image = image_mm(s.focal_length_mm, s.object_distance_m)
        for eye in eyes:
            if not eye.focusable:
                continue
            self.eye, self.s, self.rig, self.body = eye, eye.settings, eye.rig, eye.body
            self._focal()
            self._place()
            self._aperture()
            self._exposure()

    def check(self, name, got, wanted, level=CLOSE):
        if not same(float(got), float(wanted), level):
            self.wrong.append(f"{'ABCDEF'[self.eye.index]} {name}: {got} should be {wanted}")

    def _focal(self):
        eye, s = self.eye, self.s
        low, high = eye.range
        wanted = self.rig.focal_length_mm * eye.converter
        if not eye.is_first and self.hold.lens == "same":
            wanted = self.first.f
        if eye.is_first or self.hold.lens != "equivalent":
            self.check("wanted focal length", s.wanted_focal_length_mm, wanted)
        elif s.focal_length_mm == s.wanted_focal_length_mm:
            scale = self.first.crop / eye.crop
            self.check("image distance", image_mm(s.focal_length_mm, s.object_distance_m), scale * self.image)
        self.check("focal length", s.focal_length_mm, within(s.wanted_focal_length_mm, low, high))

    def _place(self):
        eye, s = self.eye, self.s
        limit = self._limit()
        own = self.hold.place == "own" and self.rig.distance_m is not None and not eye.is_first
        walks = self.hold.place == "walk" and not eye.is_first
        typed = self.brief.distance_m if eye.is_first else self.rig.distance_m
        if eye.is_first or own:
            self._as_typed("distance", s.wanted_distance_m, typed)
        elif not walks or (self.hold.lens == "equivalent" and s.focal_length_mm == s.wanted_focal_length_mm):
            self.check("spot", s.wanted_distance_m, self.first.settings.subject_distance_m)
        else:
            fill = image_mm(s.focal_length_mm, s.wanted_object_distance_m) / s.wanted_distance_m
            scale = self.first.crop / eye.crop
            self.check("fill", fill, scale * self.image / self.first.settings.subject_distance_m, 1e-7)
        if not eye.is_first:
            self.check("focus", s.wanted_object_distance_m, s.wanted_distance_m + self.offset)
        elif self.brief.focus_distance_m is not None:
            self._as_typed("focus", s.wanted_object_distance_m, self.brief.focus_distance_m)
        if s.wanted_object_distance_m <= 0:
            self.wrong.append("focused behind the camera")
        # who walks stops where nobody can stand
        strolls = walks and not (self.hold.lens == "equivalent" and s.focal_length_mm == s.wanted_focal_length_mm)
        low, high = (self.brief.nearest_m or 0.0, self.brief.farthest_m or inf) if strolls else (0.0, inf)
        stands = within(s.wanted_distance_m, low, high)
        focus = stands + s.wanted_object_distance_m - s.wanted_distance_m
        self.check("focus reached", s.object_distance_m, max(focus, limit))
        stops_there = focus < limit and walks and limit > self.offset
        self.check("stands", s.subject_distance_m, limit - self.offset if stops_there else stands)
        if not s.subject_distance_m > 0 or not 1000 * s.object_distance_m > s.focal_length_mm:
            self.wrong.append(f"stands at {s.subject_distance_m} m, focused at {s.object_distance_m} m")

    def _as_typed(self, name, got, typed):
        """A distance from the lens is as it was typed; one from the mark has the image distance in it."""
        if self.brief.distance_from == "sensor" and isfinite(typed):
            got += image_mm(self.s.focal_length_mm, got) / 1000
        self.check(name, got, typed)

    def _limit(self):
        own = self.s.focal_length_mm / self.eye.converter
        closest = self.eye.lens.closest_m(own)
        return 0.0 if closest is None else closest + (self.s.focal_length_mm - own) / 1000

    def _aperture(self):
        eye, s = self.eye, self.s
        widest, as_set = eye.widest(s.focal_length_mm), self.rig.f_number * eye.converter
        smallest = max((eye.lens.smallest_f_number or LARGEST) * eye.converter, widest)
        opened = widest if eye.lens.widest else max(as_set, widest)
        hold = self.hold.aperture
        if hold == "wide_open":
            self.check("wanted f-number", s.wanted_f_number, opened)
        elif eye.is_first or hold == "own":
            self.check("wanted f-number", s.wanted_f_number, as_set)
        elif hold == "f_number":
            self.check("wanted f-number", s.wanted_f_number, self.first.n)
        elif s.depth_known and same(s.f_number, s.wanted_f_number):
            self._depth()
        self.check("f-number", s.f_number, within(s.wanted_f_number, widest, smallest))

    def _depth(self):
        a, b = self.first, self.eye
        if same(a.settings.object_distance_m, b.settings.object_distance_m, 1e-12):
            self.check("near limit", b.near, a.near, 1e-6)
            if isfinite(a.far) or isfinite(b.far):
                self.check("far limit", 1 / b.far, 1 / a.far, 1e-5)
            return
        if isfinite(a.total):
            self.check("depth of field", b.total, a.total, 1e-6)
            return
        front = [eye.settings.object_distance_m - eye.near for eye in (a, b)]
        if isfinite(b.far) and not same(b.u, b.f / b.m if b.m else inf, 1e-6) and b.disc(inf) > b.c * (1 + 1e-9):
            self.wrong.append("far is not endless")
        if s_over(b):
            if front[1] < front[0] * (1 - 1e-6):
                self.wrong.append(f"more in front was said: {front}")
        else:
            self.check("depth in front", front[1], front[0], 1e-6)

    def _exposure(self):
        s, b, hold = self.s, self.body, self.hold.exposure
        times = (b.fastest_shutter_s or 0.0, self.eye.slowest_s)
        isos = (b.base_iso or 0.0, b.ceiling_iso or inf)
        opened = self.hold.aperture == "wide_open"
        follows = opened or not self.eye.is_first
        if not follows or hold == "own":
            self.check("shutter", s.shutter_s, within(self.rig.shutter_s, *times))
            self.check("ISO", s.iso, within(self.rig.iso, *isos))
            return
        a, body = self.first, self.first.body
        first_t = within(a.rig.shutter_s, body.fastest_shutter_s or 0.0, a.slowest_s)
        first_iso = within(a.rig.iso, body.base_iso or 0.0, body.ceiling_iso or inf)
        as_set = a.rig.f_number * a.converter
        low = a.widest(a.f)
        marked = within(as_set, low, max((a.lens.smallest_f_number or LARGEST) * a.converter, low))
        product = first_t * first_iso * (self.eye.effective / (marked * (1 + a.m))) ** 2
        takes_rest = self.rig.take_rest
        if hold == "shutter":
            t = within(first_t, *times)
            iso = within(product / t, *isos)
            if takes_rest and not same(iso, product / t):
                t = within(product / iso, *times)
        else:
            iso = within(first_iso, *isos)
            t = within(product / iso, *times)
            if takes_rest and not same(t, product / iso):
                iso = within(product / t, *isos)
        self.check("shutter", s.shutter_s, t)
        self.check("ISO", s.iso, iso)


def s_over(eye):
    return bool(eye.settings.depth_overshoot)


def unsettled(comparison, eyes):
    """What of the settings is not as the hold asks, in words."""
    return Judge(comparison, eyes).wrong
