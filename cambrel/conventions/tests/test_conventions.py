from dataclasses import fields
from unittest.mock import patch

from django.test import TestCase

from cambrel.comparison.brief import Conventions
from cambrel.conventions import questions, views
from cambrel.conventions.preferred import Preferred, preferred_by
from cambrel.conventions.questions import QUESTIONS, Answer, Question, in_force, question
from cambrel.owners.models import Preferences, User


class QuestionTests(TestCase):
    def test_every_choice_of_the_core_is_asked_and_the_usual_answers_are_its_own(self):
        asked = {one.key for one in QUESTIONS}
        unasked = {field.name for field in fields(Conventions)} - asked
        self.assertEqual(unasked, {"wavelength_nm", "output_pixels"})
        self.assertEqual(Preferred().conventions, Conventions())
        self.assertEqual(in_force(Conventions()), "crop by diagonal; sharp by diagonal / 1500; noise by whole picture")

    def test_an_answer_that_is_none_any_more_is_the_usual_one(self):
        kept = Preferred({"crop_by": "moon", "lines_per_mm": "x", "iso_ceiling": -4, "units": "ft", "gone": 1})
        self.assertEqual(kept.conventions, Conventions())
        self.assertEqual(kept.units, "ft")
        self.assertEqual(Preferred({"lines_per_mm": 6.123456}).conventions.lines_per_mm, 6.123456)

    def test_an_answer_in_the_address_is_filled_in_and_not_kept(self):
        page = self.client.get("/conventions/", {"seen_snr": "27", "gone": "1"})
        self.assertContains(page, 'value="27"')
        self.assertContains(page, "not kept yet")
        self.assertEqual(preferred_by(User.objects.get(username="local")).conventions, Conventions())
        self.assertNotContains(self.client.get("/conventions/"), "not kept yet")
        self.assertNotContains(self.client.get("/conventions/", {"gone": "1"}), "not kept yet")
        self.assertContains(self.client.get("/conventions/", {"seen_snr": "x"}), "field-error")

    def test_a_new_question_is_one_entry(self):
        new = Question(
            "shade",
            "Home",
            "Home format",
            "Changes which one is named.",
            "a",
            {"a": Answer("this"), "b": Answer("that")},
        )
        more = (*QUESTIONS, new)
        with patch.object(questions, "QUESTIONS", more), patch.object(views, "QUESTIONS", more):
            page = self.client.get("/conventions/")
            self.assertContains(page, "Home format")
            sent = {one.key: str(one.usual) for one in more} | {"shade": "b", "version": ""}
            self.client.post("/conventions/", sent)
            owner = User.objects.get(username="local")
            self.assertEqual(preferred_by(owner)["shade"], "b")
            self.assertEqual(question("shade").answered("c"), "a")
        self.assertEqual(Preferences.objects.get().answers["shade"], "b")
