"""Accounts when hosted: registering, signing in, and that nobody reaches another's records by any address."""

import io

from django.contrib.auth.hashers import identify_hasher
from django.core.management import call_command
from django.test import TestCase, override_settings
from django.urls import URLResolver, get_resolver, reverse
from django.urls.converters import IntConverter

from cambrel.bench.models import SavedComparison
from cambrel.bench.samples import home_bench
from cambrel.links import encode
from cambrel.match.models import KeptQuestion
from cambrel.owners.models import SAMPLES_OWNER, ChangeSet, User
from cambrel.owners.undo import recorded
from cambrel.shelf.demo import load_demo
from cambrel.shelf.kinds import KINDS
from cambrel.shelf.models import ImportPreview, Kit

PASSWORD = "a tender full of water"
NEW = {"username": "stoker", "password1": PASSWORD, "password2": PASSWORD}
hosted = override_settings(HOSTED=True)


@hosted
class AccountTests(TestCase):
    def test_register_sign_out_and_in(self):
        self.client.post("/register/", NEW)
        user = User.objects.get(username="stoker")
        self.assertEqual(identify_hasher(user.password).algorithm, "argon2")
        self.assertContains(self.client.get("/shelf/bodies/"), "No bodies yet")
        self.client.post("/sign-out/")
        self.assertEqual(self.client.get("/shelf/bodies/").status_code, 302)
        self.client.post("/sign-in/", {"username": "stoker", "password": PASSWORD})
        self.assertEqual(self.client.get("/shelf/bodies/").status_code, 200)

    def test_poor_passwords_and_taken_names_are_refused(self):
        User.objects.create_user("driver", password=PASSWORD)
        for changes in (
            {"password1": "12345678", "password2": "12345678"},
            {"username": "Driver"},
            {"username": ""},
            {"password2": "other"},
        ):
            with self.subTest(changes):
                self.assertEqual(self.client.post("/register/", NEW | changes).status_code, 422)

    @override_settings(AXES_ENABLED=True)
    def test_signing_in_is_closed_after_too_many_attempts(self):
        User.objects.create_user("driver", password=PASSWORD)
        for _ in range(5):
            last = self.client.post("/sign-in/", {"username": "driver", "password": "wrong"})
        self.assertContains(last, "Too many attempts", status_code=429)
        self.assertEqual(self.client.post("/sign-in/", {"username": "driver", "password": PASSWORD}).status_code, 429)

    def test_registering_is_not_there_in_local_mode(self):
        with override_settings(HOSTED=False):
            self.assertEqual(self.client.get("/register/").status_code, 404)

    def test_a_visitor_uses_the_bench_and_the_samples_and_cannot_keep_anything(self):
        call_command("samples", stdout=io.StringIO())
        self.assertEqual(User.objects.get().username, SAMPLES_OWNER)
        for address in ("/", "/formats/", "/advert/", "/conventions/"):
            self.assertEqual(self.client.get(address).status_code, 200)
        self.assertContains(self.client.get("/shelf/pick/?kind=body"), "Tarn Ridgeway")
        self.assertNotContains(self.client.get("/"), "Save this comparison")
        for address in ("/saved/new/", "/shelf/bodies/new/", "/advert/keep/", "/shelf/import/"):
            self.assertRedirects(self.client.post(address), f"/sign-in/?next={address}", fetch_redirect_response=False)
        self.client.post("/conventions/", {"crop_by": "width"})
        self.assertFalse(SavedComparison.objects.exists() or ChangeSet.objects.exists())


def named_addresses(resolver, spaces):
    """The names of all addresses that take the key of a record, wherever they are included."""
    for pattern in resolver.url_patterns:
        if isinstance(pattern, URLResolver):
            yield from named_addresses(pattern, (*spaces, *([pattern.namespace] if pattern.namespace else [])))
        elif any(
            isinstance(converter, IntConverter)
            for name, converter in pattern.pattern.converters.items()
            if name == "pk"
        ):
            yield ":".join([*spaces, pattern.name])


@hosted
class IsolationTests(TestCase):
    """Every address that names a record is tried by another owner."""

    @classmethod
    def setUpTestData(cls):
        cls.mine, cls.other = (User.objects.create_user(name, password=PASSWORD) for name in ("driver", "stoker"))
        load_demo(cls.mine)
        with recorded(cls.mine, "Saved “Mine”") as change:
            saved = SavedComparison.objects.create(owner=cls.mine, name="Mine", token=encode(home_bench()))
            change.created(saved)
        preview = ImportPreview.objects.create(owner=cls.mine, name="mine.csv")
        question = KeptQuestion.objects.create(owner=cls.mine, name="Mine", path="/match/")
        kit, lens = Kit.objects.first(), KINDS["lenses"].model.objects.filter(fixed_to=None).first()
        cls.keys = {
            **{key: [[saved.pk]] for key in ("bench:rename", "bench:duplicate", "bench:delete")},
            **{key: [[preview.pk]] for key in ("shelf:preview", "shelf:work", "shelf:apply", "shelf:drop")},
            **{key: [[kit.pk]] for key in ("shelf:kit", "shelf:pack")},
            "owners:undo": [[ChangeSet.objects.latest("pk").pk]],
            "match:forget": [[question.pk]],
            "match:lens": [[lens.pk]],
            "shelf:edit": [
                [key, kind.model.objects.first().pk] for key, kind in KINDS.items() if kind.model.objects.exists()
            ],
        }

    def everything(self):
        models = [kind.model for kind in KINDS.values()] + [SavedComparison, ChangeSet, ImportPreview, KeptQuestion]
        return [list(model.objects.order_by("pk").values()) for model in models]

    def addresses(self):
        """Every address of the application with a key in it, filled with the keys of another owner's records; a new one needs its keys here."""
        for name in named_addresses(get_resolver(), ()):
            for arguments in self.keys[name]:
                yield reverse(name, args=arguments)

    def test_no_address_reads_or_changes_what_is_another_s(self):
        before = self.everything()
        tried = list(self.addresses())
        self.assertEqual(len(tried), sum(map(len, self.keys.values())))
        for user in (self.other, None):
            if user:
                self.client.force_login(user)
            else:
                self.client.logout()
            for address in tried:
                for method in (self.client.get, self.client.post):
                    with self.subTest(address, method=method.__name__, user=user):
                        page = method(address)
                        if user is None and page.status_code == 302:
                            self.assertIn("/sign-in/", page["Location"])
                        else:
                            self.assertIn(page.status_code, (404, 405))
        self.assertEqual(self.everything(), before)

    def test_lists_bulk_actions_kits_and_exports_hold_only_one_s_own(self):
        before = self.everything()
        self.client.force_login(self.other)
        for key, kind in KINDS.items():
            theirs = list(kind.model.objects.values_list("pk", flat=True))
            for action in ({"action": "delete"}, {"action": "duplicate"}, {"kit": self.keys["shelf:kit"][0][0]}):
                self.client.post(f"/shelf/{key}/act/", {"pk": theirs, **action})
            self.assertContains(self.client.get(kind.address()), "yet.")
        for address in (
            "/shelf/export/shelf.json",
            "/shelf/export/lenses.csv",
            "/saved/",
            "/shelf/pick/?kind=lens",
            "/formats/",
        ):
            self.assertNotContains(self.client.get(address), "Tarn ")
        own = Kit.objects.create(owner=self.other, name="Bag")
        lens = KINDS["lenses"].model.objects.first()
        self.assertEqual(
            self.client.post(reverse("shelf:pack", args=[own.pk]), {"kind": "lens", "record": lens.pk}).status_code, 404
        )
        own.delete()
        self.assertEqual(self.everything(), before)
