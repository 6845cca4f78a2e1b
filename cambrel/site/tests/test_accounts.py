"""Accounts when hosted: registering, signing in, and that nobody reaches another's records by any address."""

import io
from datetime import timedelta
from unittest import mock

from django.apps import apps
from django.conf import settings
from django.contrib.auth.hashers import identify_hasher
from django.core.exceptions import PermissionDenied
from django.core.management import call_command
from django.db import OperationalError
from django.test import RequestFactory, TestCase, override_settings
from django.urls import URLResolver, get_resolver, reverse
from django.urls.converters import IntConverter
from django.utils import timezone

from cambrel.bench.models import SavedComparison
from cambrel.bench.sample_benches import home_bench
from cambrel.choose.models import KeptDecision
from cambrel.field.models import Logged, Sheet
from cambrel.learn.models import Answered
from cambrel.links.benches import encode
from cambrel.match.models import KeptQuestion
from cambrel.owners import keeping
from cambrel.owners.models import SAMPLES_OWNER, Attempt, ChangeSet, Owned, User
from cambrel.owners.undo import recorded
from cambrel.pictures.models import OwnScene
from cambrel.shelf.demo import load_demo
from cambrel.shelf.kinds import KINDS
from cambrel.shelf.models import ImportPreview, Kit, Mount
from cambrel.site.clients import client_of

PASSWORD = "a tender full of water"
NEW = {"username": "stoker", "password1": PASSWORD, "password2": PASSWORD}
hosted = override_settings(HOSTED=True, MOST_RECORDS=50_000)


@hosted
class AccountTests(TestCase):
    def test_register_sign_out_and_in(self):
        with override_settings(PASSWORD_HASHERS=settings.PASSWORD_HASHERS[1:]):  # without the quick one of the tests
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

    @override_settings(AXES_ENABLED=True, PROXIES=1)
    def test_signing_in_is_closed_to_the_client_that_guessed_and_to_nobody_else(self):
        User.objects.create_user("driver", password=PASSWORD)
        guesser, driver = {"X-Forwarded-For": "6.6.6.6, 9.9.9.9"}, {"X-Forwarded-For": "9.9.9.9, 8.8.8.8"}
        for _ in range(5):
            last = self.client.post("/sign-in/", {"username": "driver", "password": "wrong"}, headers=guesser)
        self.assertContains(last, "Too many attempts", status_code=429)
        right = {"username": "driver", "password": PASSWORD}
        self.assertEqual(self.client.post("/sign-in/", right, headers=guesser).status_code, 429)
        self.assertEqual(self.client.post("/sign-in/", right, headers=driver).status_code, 302)

    @override_settings(AXES_ENABLED=True)
    def test_many_names_from_one_client_are_too_many(self):
        User.objects.create_user("driver", password=PASSWORD)
        right = {"username": "driver", "password": PASSWORD}
        for index in range(20):
            page = self.client.post("/sign-in/", {"username": f"name{index}", "password": "wrong"})
            self.assertEqual(page.status_code, 200)
            if index == 10:
                self.assertEqual(self.client.post("/sign-in/", right).status_code, 302)
        self.assertEqual(self.client.post("/sign-in/", right).status_code, 429)
        Attempt.objects.update(made_at=timezone.now() - timedelta(minutes=61))
        self.assertEqual(self.client.post("/sign-in/", right).status_code, 302)

    def test_accounts_are_not_made_in_rows(self):
        statuses = [
            self.client.post("/register/", NEW | {"username": f"name{index}"}).status_code for index in range(6)
        ]
        self.assertEqual(statuses, [302] * 5 + [429])
        self.assertEqual(User.objects.count(), 5)

    def test_the_client_is_who_the_outermost_of_our_proxies_saw(self):
        for proxies, said, client in (
            (0, "1.1.1.1", "10.0.0.1"), (1, "1.1.1.1", "1.1.1.1"), (1, "6.6.6.6, 1.1.1.1", "1.1.1.1"),
            (1, "", "10.0.0.1"),
            (2, "6.6.6.6, 1.1.1.1, 10.0.0.2", "1.1.1.1"), (1, "<script>", "10.0.0.1"),
            (1, "2001:db8:1:2:3::4", "2001:db8:1:2::"),
            (1, "2001:db8:1:2:9::9", "2001:db8:1:2::"), (1, "::ffff:1.1.1.1", "1.1.1.1"),
        ):  # fmt: skip
            with self.subTest(proxies=proxies, said=said), override_settings(PROXIES=proxies):
                request = RequestFactory(REMOTE_ADDR="10.0.0.1").get("/", headers={"X-Forwarded-For": said})
                self.assertEqual(client_of(request), client)

    def test_another_password_signs_out_elsewhere(self):
        self.client.post("/register/", NEW)
        elsewhere = self.client_class()
        elsewhere.post("/sign-in/", {"username": "stoker", "password": PASSWORD})
        other = {"new_password1": "a smokebox of ash", "new_password2": "a smokebox of ash"}
        page = self.client.post("/account/password/", other | {"old_password": "wrong"})
        self.assertEqual(page.status_code, 422)
        self.client.post("/account/password/", other | {"old_password": PASSWORD})
        self.assertEqual(self.client.get("/account/").status_code, 200)
        self.assertEqual(elsewhere.get("/account/").status_code, 302)
        self.assertTrue(User.objects.get().check_password("a smokebox of ash"))

    def test_leaving_takes_all_along_after_the_password(self):
        self.client.post("/register/", NEW)
        load_demo(User.objects.get())
        self.client.post("/shelf/lenses/act/", {"action": "delete", "all": "1", "q": "macro"})
        self.assertContains(self.client.get("/account/leave/"), "/shelf/export/shelf.json")
        self.assertEqual(self.client.post("/account/leave/", {"password": "wrong"}).status_code, 422)
        self.assertEqual(User.objects.count(), 1)
        self.assertRedirects(self.client.post("/account/leave/", {"password": PASSWORD}), "/")
        left = [m for m in apps.get_models() if issubclass(m, Owned) and m.objects.exists()]
        self.assertEqual((User.objects.count(), left), (0, []))
        self.assertEqual(self.client.get("/account/").status_code, 302)

    @override_settings(MOST_RECORDS=10)
    def test_a_full_shelf_takes_no_more_and_says_so(self):
        self.client.post("/register/", NEW)
        for index in range(11):
            page = self.client.post("/shelf/mounts/new/", {"name": f"Fen {index}"}, follow=True)
            self.assertEqual(page.status_code, 200 if index < 10 else 409)
        self.assertContains(page, "at most 10 are kept", status_code=409)
        self.assertContains(self.client.get("/account/"), "10 of at most 10 records")
        self.assertEqual(Mount.objects.count(), 10)

    def test_what_is_old_or_far_back_is_forgotten(self):
        self.client.post("/register/", NEW)
        owner = User.objects.get()

        def change(size=1):
            with recorded(owner, "Added") as made:
                made.created(*(Mount.objects.create(owner=owner, name=f"Fen {n}") for n in range(size)))

        with mock.patch.multiple(keeping, MOST_CHANGES=3, MOST_CHANGED_RECORDS=10):
            for sizes, kept in (((1, 1, 1, 1), 3), ((5, 6), 1), ((4,), 2), ((99,), 1)):
                for size in sizes:
                    change(size)
                self.assertEqual(ChangeSet.objects.count(), kept, sizes)
        ChangeSet.objects.update(made_at=timezone.now() - timedelta(days=91))
        change()
        self.assertEqual(ChangeSet.objects.count(), 1)
        for days in (31, 29):
            ImportPreview.objects.create(owner=owner, name=str(days))
            ImportPreview.objects.filter(name=str(days)).update(made_at=timezone.now() - timedelta(days=days))
        call_command("tidy")
        self.assertEqual(ImportPreview.objects.get().name, "29")

    def test_a_form_without_its_mark_and_what_is_forbidden_have_pages_of_their_own(self):
        strict = self.client_class(enforce_csrf_checks=True)
        self.assertContains(strict.post("/sign-in/", {"username": "driver"}), "load the page anew", status_code=403)
        with mock.patch("cambrel.site.views.accounts.records_of", side_effect=PermissionDenied):
            self.client.post("/register/", NEW)
            self.assertContains(self.client.get("/account/"), "not yours to do", status_code=403)

    def test_who_watches_is_told_that_it_answers(self):
        with override_settings(SECURE_SSL_REDIRECT=True, SECURE_REDIRECT_EXEMPT=[r"^health/$"]):
            self.assertEqual(self.client.get("/health/").content, b"ok")
            self.assertEqual(self.client.get("/formats/").status_code, 301)
        with (
            mock.patch("cambrel.site.health.User.objects.exists", side_effect=OperationalError("no such table")),
            self.assertLogs("cambrel.health", "ERROR"),
        ):
            page = self.client.get("/health/")
        self.assertEqual((page.status_code, page.content), (503, b"not well: database"))

    def test_registering_is_not_there_in_local_mode(self):
        with override_settings(HOSTED=False):
            for address in ("/register/", "/account/", "/account/password/", "/account/leave/"):
                self.assertEqual(self.client.get(address).status_code, 404)

    def test_a_visitor_uses_the_bench_and_the_samples_and_cannot_keep_anything(self):
        call_command("samples", stdout=io.StringIO())
        self.assertEqual(User.objects.get().username, SAMPLES_OWNER)
        for address in ("/", "/formats/", "/advert/", "/conventions/"):
            self.assertEqual(self.client.get(address).status_code, 200)
        self.assertContains(self.client.get("/shelf/pick/?kind=body"), "Tarn Ridgeway")
        self.assertNotContains(self.client.get("/"), "Save this comparison")
        for address in ("/saved/comparisons/new/", "/shelf/bodies/new/", "/advert/keep/", "/shelf/import/"):
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
        token = "a" * 32
        sheet = Sheet.objects.create(
            owner=cls.mine,
            name="Mine",
            token=encode(home_bench()),
            trials=["noise"],
            back={token: {"shot": "noise-0-0"}},
        )
        scene = OwnScene.objects.create(owner=cls.mine, name="Mine", background=token)
        Logged.objects.create(owner=cls.mine, iso=100)
        Answered.objects.create(
            owner=cls.mine,
            round="0" * 12,
            ordinal=0,
            kind="view",
            level="judge",
            is_right=True,
            answered_at=timezone.now(),
        )
        decision = KeptDecision.objects.create(owner=cls.mine, name="Mine", token="x")
        question = KeptQuestion.objects.create(owner=cls.mine, name="Mine", path="/match/")
        kit, lens = Kit.objects.first(), KINDS["lenses"].model.objects.filter(fixed_to=None).first()
        cls.keys = {
            **{key: [["comparisons", saved.pk]] for key in ("bench:rename", "bench:duplicate", "bench:delete")},
            **{key: [[preview.pk]] for key in ("shelf:preview", "shelf:work", "shelf:apply", "shelf:drop")},
            **{key: [[kit.pk]] for key in ("shelf:kit", "shelf:pack", "field:card")},
            "owners:undo": [[ChangeSet.objects.latest("pk").pk]],
            "match:forget": [[question.pk]],
            **{
                f"field:{key}": [[sheet.pk]] for key in ("sheet", "take", "forget", "back", "bring", "heads", "measure")
            },
            **{f"field:{key}": [[sheet.pk, "noise-0-0"]] for key in ("seen", "simulate", "take-over")},
            **{f"field:{key}": [[sheet.pk, token]] for key in ("place", "picture", "look", "keep-picture")},
            **{f"field:{key}": [[scene.pk]] for key in ("place-edit", "place-remove", "place-brief")},
            "field:place-picture": [[scene.pk, "background"]],
            **{key: [[decision.pk]] for key in ("choose:kept", "choose:forget")},
            "match:lens": [[lens.pk]],
            **{
                address: [
                    [key, kind.model.objects.first().pk] for key, kind in KINDS.items() if kind.model.objects.exists()
                ]
                for address in ("shelf:edit", "shelf:put")
            },
            "shelf:record": [],  # leads to the pages above
        }

    def everything(self):
        models = [kind.model for kind in KINDS.values()] + [
            SavedComparison,
            ChangeSet,
            ImportPreview,
            KeptQuestion,
            KeptDecision,
            Sheet,
            OwnScene,
            Logged,
            Answered,
        ]
        return [list(model.objects.order_by("pk").values()) for model in models]

    def addresses(self):
        """Every address of the application with a key in it, filled with the keys of another owner's records; a new one
        needs its keys here.
        """
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
