"""Two people, or two windows, at one record: the second sees both versions and chooses; nothing is lost."""

from unittest import mock

from cambrel.owners.models import Preferences
from cambrel.shelf.editing import Editing, stamp_of
from cambrel.shelf.models import Body, Lens
from cambrel.shelf.tests.test_shelf import NEW_LENS, ShelfTestCase


class StaleEditTests(ShelfTestCase):
    def typed(self, page):
        """What a form sends when nothing in it is touched."""
        form = page.context["editing"].form
        values = {name: field.prepare_value(form[name].value()) for name, field in form.fields.items()}
        values = {name: "" if value is None else value for name, value in values.items()}
        return values | {"stabilised": "unknown", "version": page.context["editing"].stamp}

    def test_who_saves_second_sees_both_versions_and_chooses(self):
        lens = Lens.objects.get(name="Tarn 50 mm f/1.8")
        address = f"/shelf/lenses/{lens.pk}/edit/"
        mine = self.typed(self.client.get(address))
        self.client.post(address, mine | {"weight_g": "190", "note": "Theirs"})
        page = self.client.post(address, mine | {"weight_g": "195", "price": "333"})
        self.assertEqual(page.status_code, 409)
        lens.refresh_from_db()
        self.assertEqual((lens.weight_g, lens.note), (190, "Theirs"), "nothing was written over")
        rows = {label: (there, here) for label, there, here in page.context["editing"].apart}
        self.assertEqual(set(rows), {"Weight", "Price", "Note"})
        self.assertEqual((rows["Weight"], rows["Note"]), (("190", "195"), ("Theirs", "unknown")))
        self.assertContains(page, 'value="195"', status_code=409)
        self.assertContains(page, "changed meanwhile", status_code=409)
        # pressed again in sight of both, mine is taken
        self.client.post(address, mine | {"weight_g": "195", "price": "333", "version": page.context["editing"].stamp})
        lens.refresh_from_db()
        self.assertEqual((lens.weight_g, lens.price, lens.note), (195, 333, ""))

    def test_a_body_is_another_version_when_one_of_its_parts_is(self):
        body = Body.objects.filter(crop_modes__isnull=False).first()
        seen = stamp_of(body)
        body.crop_modes.first().save()
        self.assertNotEqual(stamp_of(body), seen)
        sent = {"version": seen, "name": "X", "modes-TOTAL_FORMS": 0, "modes-INITIAL_FORMS": 0}
        self.assertEqual(self.client.post(f"/shelf/bodies/{body.pk}/edit/", sent).status_code, 409)

    def test_a_change_between_looking_and_saving_is_noticed_too(self):
        lens = Lens.objects.get(name="Tarn 50 mm f/1.8")
        data = NEW_LENS | {"name": lens.name, "focal_min_mm": "50", "version": stamp_of(lens)}
        valid = Editing.is_valid

        def late(editing):
            sound = valid(editing)
            if sound:
                Lens.objects.get(pk=lens.pk).save()
            return sound

        with mock.patch.object(Editing, "is_valid", late):
            page = self.client.post(f"/shelf/lenses/{lens.pk}/edit/", data)
        self.assertEqual(page.status_code, 409)
        self.assertContains(page, 'value="50"', status_code=409)

    def test_conventions_that_were_changed_in_another_window_are_not_written_over(self):
        mine = {
            "crop_by": "width",
            "criterion": "diagonal_1730",
            "noise": "pixel",
            "units": "ft",
            "lines_per_mm": "5",
            "iso_ceiling": "1600",
        }
        self.client.post("/conventions/", mine | {"version": ""})
        page = self.client.post("/conventions/", mine | {"crop_by": "area", "version": ""})
        self.assertContains(page, "changed in another window: crop by is width there, area here", status_code=409)
        self.assertEqual(Preferences.objects.get().answers["crop_by"], "width")
        self.client.post("/conventions/", mine | {"crop_by": "area", "version": page.context["version"]})
        self.assertEqual(Preferences.objects.get().answers["crop_by"], "area")
