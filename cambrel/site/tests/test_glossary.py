"""The glossary: every word once, explained where it stands and on its own page."""

from django.test import SimpleTestCase, TestCase, tag

from cambrel.wording.glossary import parts, terms


class GlossaryTests(SimpleTestCase):
    def test_no_form_stands_for_two_terms(self):
        forms = [form.lower() for term in terms().values() for form in term.forms]
        self.assertEqual(len(forms), len(set(forms)))
        self.assertEqual(
            [term.term.lower() for term in terms().values()], sorted(term.term.lower() for term in terms().values())
        )

    def test_a_text_is_cut_and_nothing_of_it_is_lost(self):
        for term in terms().values():
            for form in term.forms:
                for text in (form, f"x {form.upper()}, y", f"The {form} and the {form}.", term.says):
                    with self.subTest(text=text):
                        self.assertEqual("".join(part for part, _ in parts(text)), text)
                cut = parts(f"x {form.upper()}, y {form}")
                self.assertEqual([slug for _, slug in cut if slug][:1], [term.slug])

    def test_the_longest_form_is_taken_once_and_not_within_words(self):
        self.assertEqual(parts("the depth of\u00a0field"), [("the ", ""), ("depth of\u00a0field", "depth-of-field")])
        self.assertEqual(parts("depthless, re-mount, stopped"), [("depthless, re-mount, stopped", "")])
        seen = set()
        self.assertEqual([slug for _, slug in parts("a stop and a stop", seen)], ["", "stop", ""])
        self.assertEqual(parts("another stop", seen), [("another stop", "")])


@tag("long")
class PageTests(TestCase):
    def test_every_word_has_its_place_and_its_card(self):
        page = self.client.get("/words/")
        for slug, term in terms().items():
            self.assertContains(page, f'id="{slug}"')
            self.assertContains(self.client.get(f"/words/{slug}/", headers={"HX-Request": "true"}), term.term)
            self.assertRedirects(self.client.get(f"/words/{slug}/"), f"/words/#{slug}", fetch_redirect_response=False)
        self.assertEqual(self.client.get("/words/nothing/").status_code, 404)

    def test_words_in_sentences_lead_to_it_and_what_is_typed_is_escaped(self):
        page = self.client.get("/")
        self.assertContains(page, '<a class="term" href="/words/#depth-of-field"')
        self.assertNotContains(self.client.get("/advert/", {"text": "<b>25 mm f/1.7</b> 1/1.3"}), "<b>25 mm")
