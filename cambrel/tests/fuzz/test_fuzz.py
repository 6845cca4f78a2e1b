"""Whatever is sent: no fault of ours, no figure that is none on the page, and an answer in time. `make fuzz` sends two
thousand.
"""

import os
import re
import time
from html import unescape

from django.core.signals import request_finished
from django.db import close_old_connections
from django.test import TestCase, override_settings, tag

from cambrel.bench.sample_benches import home_bench
from cambrel.bounds.doors import DOORS
from cambrel.comparison.engine import compare
from cambrel.field.models import Sheet
from cambrel.field.planning import SheetPlan
from cambrel.links.benches import encode
from cambrel.owners.models import LOCAL_OWNER, User
from cambrel.pictures.shots import rig_shot
from cambrel.pictures.tests.folder import own_folder
from cambrel.shelf.demo import load_demo
from cambrel.tests.fuzz.posted import Posted
from cambrel.tests.fuzz.requests import Fuzz

REQUESTS = int(os.environ.get("CAMBREL_FUZZ_REQUESTS", 40))
SEED = int(os.environ.get("CAMBREL_FUZZ_SEED", 20261125))
SLOWEST_S = 2.0
SLOWEST_PICTURE_S = 10.0
"""A fresh machine has its cut-outs to draw first."""
NO_FIGURE = re.compile(r"(?<![\w-])(?:nan|inf|None|NaN|undefined)(?![\w-])|(?<![\w.])\d+(?:\.\d+)?e[+-]?\d+(?!\w)")


def seen(page):
    """What is read on a page, without what a reader typed: that is quoted in messages."""
    text = re.sub(r"<(script|style|datalist|textarea|q)\b.*?</\1>", " ", page, flags=re.DOTALL)
    text = unescape(re.sub(r"<[^>]*>", " ", text))
    return re.sub(r"“[^”]*”", " ", text)


@tag("long")
class FuzzTests(TestCase):
    @classmethod
    def setUpTestData(cls):
        cls.owner, _ = User.objects.get_or_create(username=LOCAL_OWNER)
        load_demo(cls.owner)

    def test_no_request_is_a_fault(self):
        bench = home_bench()
        compared = compare(bench.brief, bench.rigs, bench.hold, bench.conventions, bench.reference)
        shots = [rig_shot(bench, compared, compared.of(index)).token() for index in range(3)]
        fuzz = Fuzz(SEED, shots)
        self.client.raise_request_exception = False
        self.posted = set()
        for number in range(REQUESTS):
            sent = fuzz.next()
            with self.subTest(
                number=number, path=sent.path[:60], query=str(sent.query)[:400], posts=sent.posts, htmx=sent.htmx
            ):
                self.send(sent)

    @override_settings(DEBUG_PROPAGATE_EXCEPTIONS=False)
    def send(self, sent):
        headers = {"HX-Request": "true"} if sent.htmx else {}
        if sent.posts:
            self.posted |= {str(value) for value in sent.query.values()} - {"nan", "None"}
        call = self.client.post if sent.posts else self.client.get
        begun = time.perf_counter(), time.process_time()
        page = call(sent.path, sent.query, headers=headers)
        # the lesser of both: neither a busy machine nor two threads at once make a request slow
        taken = min(time.perf_counter() - begun[0], time.process_time() - begun[1])
        if page.streaming:  # as a server does, but for the connection, in which the test's transaction is
            request_finished.disconnect(close_old_connections)
            page.close()
            request_finished.connect(close_old_connections)
        self.assertLess(page.status_code, 500)
        is_watched = "helping" in sent.path or sent.query.get("look") == "help"
        slowest = SLOWEST_PICTURE_S if sent.path.startswith("/scene/") else SLOWEST_S
        self.assertLess(taken, DOORS["helping"].seconds if is_watched else slowest)
        if page.get("Content-Type", "").startswith("text/html") and not page.streaming:
            text = seen(page.content.decode())
            # a record may be called so by who posted it
            found = next((one for one in NO_FIGURE.finditer(text) if one[0] not in self.posted), None)
            self.assertIsNone(found, found and text[max(0, found.start() - 60) : found.end() + 40])


@tag("long")
class PostedFuzzTests(TestCase):
    @classmethod
    def setUpTestData(cls):
        cls.owner, _ = User.objects.get_or_create(username=LOCAL_OWNER)
        load_demo(cls.owner)
        cls.sheet = Sheet.objects.create(
            owner=cls.owner, name="Proof", token=encode(home_bench()), trials=["noise", "depth"]
        )

    def setUp(self):
        own_folder(self)
        self.client.raise_request_exception = False

    def test_nothing_that_is_posted_is_a_fault_nor_stays_as_one(self):
        shots = [shot.key for shot in SheetPlan(home_bench(), ("noise", "depth")).shots]
        posted = Posted(SEED, self.sheet.pk, shots)
        for number in range(REQUESTS):
            address, sent = posted.next()
            with self.subTest(number=number, address=address, sent=str(sent)[:300]):
                page = self.client.post(address, sent, headers={"X-Requested-With": "fetch"} if number % 2 else {})
                self.assertLess(page.status_code, 500)
                if page.status_code == 302 and page["Location"].startswith("/shelf/import/"):
                    self.brought_in(page["Location"])
            if number % 10 == 9:
                self.looked_at()

    def brought_in(self, where):
        for step in ("work/", "apply/"):
            page = self.client.post(where + step, {"leave_out": "1", "take_all": "1"})
            self.assertLess(page.status_code, 500)
        self.assertLess(self.client.get(where).status_code, 500)

    def looked_at(self):
        pages = (
            "/",
            "/saved/",
            "/shelf/lenses/",
            "/shelf/bodies/",
            "/shelf/kits/",
            "/field/",
            f"/field/{self.sheet.pk}/",
            "/field/habits/",
            "/choose/",
        )
        for address in (
            *pages,
            f"/field/{self.sheet.pk}/back/",
            "/field/scenes/",
            "/shelf/export/shelf.json",
            "/shelf/export/sheets.csv",
            "/learn/",
        ):
            with self.subTest(address=address):
                self.assertLess(self.client.get(address).status_code, 500)
