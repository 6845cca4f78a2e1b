"""One mount is one name: typed, brought in, compared and offered, whatever its case."""

import json
from importlib import import_module

from django.apps import apps

from cambrel.comparison.brief import Brief
from cambrel.comparison.engine import Body as OpticsBody
from cambrel.comparison.engine import Lens as OpticsLens
from cambrel.comparison.engine import Rig, compare
from cambrel.comparison.fit import SAME, mount_fit
from cambrel.optics.formats import Sensor
from cambrel.shelf.models import Adapter, Body, Lens, Mount
from cambrel.shelf.tests.test_round_trip import TransferTestCase
from cambrel.shelf.tests.test_shelf import NEW_LENS


class MountTests(TransferTestCase):
    def test_a_form_spells_a_mount_as_the_shelf_does_and_offers_those_that_are_known(self):
        Body.objects.create(owner=self.owner, name="Only body", mount="Zeta", width_mm=24, height_mm=16)
        page = self.client.get("/shelf/lenses/new/")
        self.assertContains(page, '<option value="Zeta">')
        self.assertContains(page, 'list="mounts"')
        self.assertContains(page, 'list="systems"')
        self.client.post("/shelf/lenses/new/", NEW_LENS | {"mount": " zeTA "})
        self.assertEqual(Lens.objects.get(name=NEW_LENS["name"]).mount, "Zeta")
        made = {"name": "Ring", "kind": "plain", "lens_mount": "tarn", "mount": "ZETA"}
        self.client.post("/shelf/adapters/new/", made)
        ring = Adapter.objects.get(name="Ring")
        self.assertEqual((ring.lens_mount, ring.mount), ("Tarn", "Zeta"))
        again = self.client.post("/shelf/mounts/new/", {"name": "tarn"})
        self.assertContains(again, "A mount of this name is there already", status_code=422)
        self.client.post("/shelf/mounts/new/", {"name": "Eta", "accepts": "zeta, tarn"})
        self.assertEqual(Mount.objects.get(name="Eta").accepts, ["Tarn", "Zeta"])

    def test_files_bring_in_one_mount_however_they_spell_it(self):
        rows = "name,mount,focal_min_mm\nTarn 41,TARN,41\nEta 20,eta,20\nEta 30,Eta,30\n"
        preview = self.bring(("lenses.csv", rows))
        self.client.post(f"/shelf/import/{preview.pk}/apply/")
        mounts = dict(Lens.objects.filter(name__in=["Tarn 41", "Eta 20", "Eta 30"]).values_list("name", "mount"))
        self.assertEqual(mounts, {"Tarn 41": "Tarn", "Eta 20": "eta", "Eta 30": "eta"})
        self.assertEqual(self.statuses(self.bring(("lenses.csv", rows))), ["same"])
        document = {"cambrel": 1, "sections": {"mounts": [{"name": "tarn", "register_mm": 18}, {"name": 7}]}}
        self.bring(("shelf.json", json.dumps(document)))

    def test_by_value_too_and_what_was_kept_before(self):
        self.assertEqual(mount_fit("zeta", "Zeta").word, SAME)
        rig = Rig(OpticsBody(Sensor(36, 24), mount="Zeta"), OpticsLens(50, 50, mount="zeta"), 50, 4)
        self.assertEqual(compare(Brief(), [rig]).of(0).outfit.mount_fits, 1)
        body = Body.objects.create(owner=self.owner, name="Old", mount="tARN", width_mm=24, height_mm=16)
        import_module("cambrel.shelf.migrations.0010_one_spelling_of_mounts").one_spelling(apps, None)
        body.refresh_from_db()
        self.assertEqual(body.mount, "Tarn")
        page = self.client.get("/shelf/pick/", {"kind": "lens", "mount": "pipwren", "rig": "0"})
        self.assertTrue(page.context["offers"][0].name.startswith("Pipwren"))
