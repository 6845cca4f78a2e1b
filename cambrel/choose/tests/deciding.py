"""Pages of decisions, for the tests of them."""

from html import unescape

from django.urls import reverse

from cambrel.shelf.models import Kit
from cambrel.shelf.tests.test_shelf import ShelfTestCase


class DecisionTestCase(ShelfTestCase):
    def page(self, **sent):
        return self.client.get(reverse("choose:choose"), sent)

    def text(self, page):
        return unescape(page.content.decode())

    def kit(self, name):
        return Kit.objects.get(name=name)

    def kits(self, page):
        return {head["kit"].name: head for head in page.context["heads"]}
