"""A round of ten: put, answered, kept once, asked again when it was wrong, undone and exported; nobody sees
another's.
"""

import json
from collections import Counter
from datetime import UTC, datetime, timedelta
from types import SimpleNamespace
from unittest import TestCase as PlainTestCase
from unittest import mock

from django.test import TestCase, override_settings, tag
from django.urls import reverse

from cambrel.comparison.brief import Conventions
from cambrel.drills.all_drills import KINDS
from cambrel.learn.cases import pictures
from cambrel.learn.gear_pool import pool_of
from cambrel.learn.models import Answered
from cambrel.learn.put_questions import BOTH_WAYS, EYE, TokenError, put, read, wrong_words
from cambrel.learn.schedule import AGAIN_AFTER, LEVELS, MOST_TIMES, due_now, minutes_for, next_kind, standings
from cambrel.learn.views import rounds
from cambrel.owners.models import LOCAL_OWNER, ChangeSet, User
from cambrel.owners.sections import SECTIONS
from cambrel.owners.undo import undo
from cambrel.pictures.shots import shot_of
from cambrel.shelf.models import Body
from cambrel.shelf.tests.test_round_trip import TransferTestCase

START = datetime(2026, 11, 2, 8, tzinfo=UTC)
ROUND = "0123456789ab"


def answer(kind, at, is_right=True, seconds=5.0, slip=""):
    return SimpleNamespace(kind=kind, answered_at=at, is_right=is_right, seconds=seconds, slip=slip, level="estimate")


class ScheduleTests(PlainTestCase):
    def test_what_was_wrong_comes_back_sooner_than_what_was_right(self):
        found = standings(KINDS, [answer("view", START), answer("depth", START, is_right=False)])
        self.assertLess(found["depth"].card.due, found["view"].card.due)
        later = found["depth"].card.due + timedelta(seconds=1)
        self.assertTrue(found["depth"].is_due(later))
        self.assertFalse(found["walk"].is_due(later), "what was never asked is not due")
        self.assertEqual(next_kind(found, later, []), "depth")
        self.assertEqual(due_now(found, later), 1)

    def test_of_several_that_are_due_the_longest_due_comes_first_and_none_twice_running(self):
        answers = [
            answer("walk", START),
            answer("view", START + timedelta(hours=1)),
            answer("reach", START + timedelta(hours=2)),
        ]
        found, later = standings(KINDS, answers), START + timedelta(days=60)
        self.assertEqual(due_now(found, later), 3)
        self.assertEqual(next_kind(found, later, []), "walk")
        self.assertEqual(next_kind(found, later, ["walk"]), "view", "not twice running, though it is due for longest")
        only = standings(KINDS, [answer("view", START, is_right=False)])
        self.assertNotEqual(next_kind(only, START + timedelta(days=1), ["view"]), "view")

    def test_what_was_wrong_last_is_not_known_and_is_asked_before_what_is(self):
        at = START + timedelta(minutes=1)
        found = standings(
            ["view", "depth", "walk"],
            [answer("view", START), answer("depth", START, is_right=False), answer("walk", START)],
        )
        self.assertEqual(found["depth"].chance(at - timedelta(seconds=59)), 0.0)
        self.assertGreater(found["view"].chance(at), 0.9)
        self.assertEqual(next_kind(found, START + timedelta(seconds=30), ["walk"]), "depth")
        self.assertEqual([chance for _, chance in found["depth"].chances], [0.0])

    def test_how_long_a_round_takes_goes_by_how_long_the_reader_thinks(self):
        slow = standings(KINDS, [answer("view", START, seconds=s) for s in (10, 60, 70)])
        self.assertEqual([minutes_for(slow, 5), minutes_for(standings(KINDS, []), 12), minutes_for(slow, 0)], [5, 5, 1])

    def test_what_is_known_is_asked_at_ever_longer_intervals_and_fades_between(self):
        at, gaps, answers = START, [], []
        for _ in range(5):
            answers.append(answer("view", at))
            due = standings(KINDS, answers)["view"].card.due
            gaps.append(due - at)
            at = due
        self.assertEqual(gaps, sorted(gaps))
        self.assertGreater(gaps[-1], timedelta(days=30))
        known = standings(KINDS, answers)["view"]
        last = answers[-1].answered_at
        chances = [known.chance(last + timedelta(days=days)) for days in (1, 30, 300)]
        self.assertEqual(chances, sorted(chances, reverse=True))
        self.assertEqual(standings(KINDS, [])["view"].chance(START), 0.0)

    def test_a_slow_answer_comes_back_sooner_than_a_quick_one(self):
        due = [standings(KINDS, [answer("view", START, seconds=s)])["view"].card.due for s in (44.0, 46.0, None)]
        self.assertLess(due[1], due[0])
        self.assertEqual(due[0], due[2])

    def test_two_right_in_a_row_lead_on_and_a_wrong_one_leads_back(self):
        marks, seen = (1, 1, 1, 1, 0, 1, 1, 1, 1), []
        for count in range(len(marks) + 1):
            answers = [answer("view", START + timedelta(hours=i), bool(mark)) for i, mark in enumerate(marks[:count])]
            seen.append(LEVELS.index(standings(KINDS, answers)["view"].level))
        self.assertEqual(seen, [0, 0, 1, 1, 2, 1, 1, 2, 2, 0])

    def round_of(self, is_right, now=START, answers=()):
        """The kinds of a round in their order, each answered as is said."""
        in_round, answers = [], list(answers)
        for _ in range(10):
            kind = next_kind(standings(KINDS, answers), now, in_round)
            in_round.append(kind)
            now += timedelta(seconds=90)
            answers.append(answer(kind, now, is_right(kind, in_round)))
        return in_round

    def test_a_round_asks_ten_things_and_only_what_went_wrong_again_a_little_later(self):
        self.assertEqual(self.round_of(lambda *_: True), list(KINDS)[:10])
        known = [answer(kind, START - timedelta(days=90)) for kind in KINDS]
        self.assertEqual(len(set(self.round_of(lambda *_: True, answers=known))), 10)
        once = self.round_of(lambda kind, asked: kind != "depth" or asked.count("depth") > 1)
        self.assertEqual(once.count("depth"), 2)
        self.assertGreaterEqual(once.index("depth", 2) - once.index("depth"), AGAIN_AFTER + 1)
        never = self.round_of(lambda *_: False)
        self.assertEqual(max(never.count(kind) for kind in never), MOST_TIMES)
        self.assertTrue(all(a != b and a != c for a, b, c in zip(never, never[1:], never[2:], strict=False)), never)


class RoundTripTests(TransferTestCase):
    def test_answers_go_out_with_the_shelf_and_come_back_once(self):
        for ordinal, kind in enumerate(("view", "depth", "view")):
            wrong = ordinal == 1
            Answered.objects.create(
                owner=self.owner,
                round=ROUND,
                ordinal=ordinal,
                kind=kind,
                level="number",
                is_right=not wrong,
                slip="inverted" if wrong else "",
                seconds=7.5,
                answered_at=START + timedelta(hours=ordinal),
            )
        before = standings(KINDS, Answered.objects.all())
        document = self.client.get("/shelf/export/shelf.json").content
        table = self.client.get("/shelf/export/answers.csv").content
        for name, data in (("shelf.json", document), ("answers.csv", table)):
            with self.subTest(name):
                Answered.objects.all().delete()
                preview = self.bring((name, data))
                self.client.post(f"/shelf/import/{preview.pk}/apply/")
                again = standings(KINDS, Answered.objects.all())
                for kind in ("view", "depth"):
                    self.assertEqual(
                        (again[kind].card.due, again[kind].slips, again[kind].level),
                        (before[kind].card.due, before[kind].slips, before[kind].level),
                    )
                self.assertEqual(self.statuses(self.bring((name, data))), ["same"])


@tag("long")
class RoundTests(TestCase):
    @classmethod
    def setUpTestData(cls):
        cls.owner, _ = User.objects.get_or_create(username=LOCAL_OWNER)

    def put(self, **asked):
        page = self.client.get(reverse("learn:round"), {"r": ROUND, **asked})
        return page.context["put"], page.context["token"]

    def say(self, token, said):
        return self.client.post(reverse("learn:round"), {"token": token, "said": said})

    def test_ten_questions_make_a_round_each_kept_once_and_all_undone_together(self):
        for ordinal in range(10):
            made, token = self.put()
            self.assertEqual(
                (made.ordinal, self.put()[0].case), (ordinal, made.case), "the same one when it is loaded again"
            )
            is_typed = made.level == "number"
            right = made.posed.right if is_typed else next(i for i in range(4) if made.judged(i)[0])
            page = self.say(token, right)
            self.assertContains(page, "Right:")
            self.say(token, right)
        self.assertEqual(Answered.objects.for_owner(self.owner).count(), 10)
        over = self.client.get(reverse("learn:round"), {"r": ROUND})
        self.assertContains(over, "10 of 10 right")
        self.assertEqual(ChangeSet.objects.for_owner(self.owner).count(), 1)
        undo(ChangeSet.objects.for_owner(self.owner).get())
        self.assertFalse(Answered.objects.exists())

    def test_a_wrong_answer_is_told_its_mistake_the_working_and_where_the_case_is_seen(self):
        made, token = self.put(kind="view", level="number")
        slip = next(one for one in made.posed.slips if one.key == "inverted")
        page = self.say(token, f"{slip.value:.3f} mm")
        self.assertContains(page, "The wrong way round: the smaller frame takes the shorter lens")
        self.assertContains(page, "f₂ = f × C₁ / C₂")
        self.assertEqual(self.client.get(page.context["bench"]).status_code, 200)
        kept = Answered.objects.get()
        self.assertEqual((kept.is_right, kept.slip, kept.level), (False, "inverted", "number"))
        home = self.client.get(reverse("learn:home"))
        self.assertContains(home, "The wrong way round")
        self.assertContains(home, "0 of 1")

    def test_every_case_is_shown_on_the_bench(self):
        for kind in KINDS:
            made, token = self.put(kind=kind, level="judge")
            page = self.client.get(self.say(token, 0).context["bench"])
            Answered.objects.all().delete()
            with self.subTest(kind=kind):
                self.assertEqual(page.status_code, 200)
                self.assertEqual(len(page.context["page"].plates), 2)
                self.assertFalse(page.context["page"].faces.blind)
            self.assertEqual(made.kind, kind)

    def test_of_two_pictures_the_one_that_is_asked_for_stands_where_it_is_counted_as_right(self):
        """Of the larger frame, and of whoever stood nearer, first as often as second."""
        places = {"depth": Counter(), "walk": Counter()}
        for kind, met in places.items():
            for number in range(60):
                made = put(f"{number:012x}", 0, kind, LEVELS[0], pool_of(self.owner), Conventions())
                if made.level != EYE:
                    continue
                first, second = (shot_of(address.split("/")[2]).camera for address, _, _ in pictures(made))
                is_first = (
                    first.width_mm > second.width_mm
                    if kind == "depth"
                    else first.subject_distance_m < second.subject_distance_m
                )
                met[is_first] += 1
                self.assertEqual(made.judged(0 if is_first else 1), (True, ""))
                self.assertFalse(made.judged(1 if is_first else 0)[0])
            self.assertGreater(min(met[True], met[False]), 3, met)

    def test_what_is_no_number_is_said_beside_the_field_and_nothing_is_lost(self):
        made, token = self.put(kind="walk", level="number")
        for said in ("", "abc", "1e400", "nan", "0", "-3", "x" * 500):
            page = self.say(token, said)
            self.assertEqual(page.status_code, 422, said)
            self.assertContains(page, "field-error", status_code=422)
            self.assertContains(page, made.text, status_code=422)
        for said in ("9", "", "-1", "x"):
            picked = self.put(kind="walk", level="judge")[1]
            self.assertContains(self.say(picked, said), "Pick one of the answers", status_code=422)
        self.assertFalse(Answered.objects.exists())

    def test_a_wrong_judgement_is_told_what_was_confused(self):
        shelf = pool_of(self.owner)
        met = set()
        for seed in range(40):
            made = put(f"{seed:012x}", seed, "view", "judge", shelf, Conventions())
            holds = KINDS["view"].holds(made.case.given)
            for picked, ways in enumerate(BOTH_WAYS):
                is_right, slip = made.judged(picked)
                with self.subTest(seed=seed, picked=ways):
                    self.assertEqual(is_right, ways == holds)
                    if not is_right:
                        exchanged = ways == holds[::-1] and holds[0] != holds[1]
                        self.assertEqual(
                            slip, "other_terms" if exchanged else "one_for_both" if ways[0] == ways[1] else "one_of_two"
                        )
                        said = wrong_words(made, slip)
                        self.assertEqual(
                            "different answers" in said, not ("the same answer here" in said or exchanged), said
                        )
                        self.assertEqual(
                            "the same answer here" in said, holds[0] == holds[1] and ways[0] != ways[1], said
                        )
                        met.add(slip)
        self.assertEqual(met, {"other_terms", "one_for_both", "one_of_two"})

    def test_a_visitor_is_asked_about_the_samples_and_nothing_is_kept(self):
        with override_settings(HOSTED=True):
            page = self.client.get(reverse("learn:round"), {"r": ROUND, "n": "3"})
            self.assertEqual(page.context["put"].ordinal, 3)
            answered = self.say(page.context["token"], "1")
            self.assertIn(answered.status_code, (200, 422))
            self.assertContains(self.client.get(reverse("learn:round"), {"r": ROUND, "n": "10"}), "Sign in")
            self.assertContains(self.client.get(reverse("learn:home")), "Sign in")
            self.assertEqual(self.client.post(reverse("learn:forget")).status_code, 302)
        self.assertFalse(Answered.objects.exists())

    def test_a_question_that_was_not_put_is_not_answered(self):
        _, token = self.put(kind="view")
        for broken in ("", "x", token[:-2], token + "a", "a:b:c"):
            self.assertRedirects(self.say(broken, "0"), reverse("learn:round"), fetch_redirect_response=False)
            with self.assertRaisesRegex(TokenError, "This question was asked too long ago. Here is another."):
                read(broken)
        self.assertFalse(Answered.objects.exists())

    def test_stops_are_typed_in_thirds_and_with_a_sign(self):
        made, token = self.put(kind="total_light", level="number")
        right = made.posed.right
        thirds = round(right * 3)
        whole, rest = divmod(abs(thirds), 3)
        said = ("-" if right < 0 else "") + (f"{whole} {rest}/3" if rest else f"{whole} stops")
        self.assertContains(self.say(token, said), "Right:")

    def test_answers_go_out_and_come_back_and_what_is_unsound_is_refused(self):
        _, token = self.put(kind="view", level="judge")
        self.say(token, 0)
        section = SECTIONS["answers"]
        ((_, row),) = section.rows(self.owner)
        self.assertEqual(section.check(json.loads(json.dumps(row))), row)
        self.assertEqual(section.rows(self.owner, {row["name"]})[0][1], row)
        self.assertEqual(section.rows(self.owner, {"other 1"}), [])
        for change in ({"name": "x"}, {"name": "a b"}, {"answered_at": "soon"}, {"answered_at": "2026-01-01T10:00:00"}):
            with self.assertRaises(ValueError):
                section.check(row | change)

    def test_all_answers_are_thrown_away_and_that_is_undone(self):
        _, token = self.put(kind="view", level="judge")
        self.say(token, 0)
        self.client.post(reverse("learn:forget"))
        self.assertFalse(Answered.objects.exists())
        undo(ChangeSet.objects.for_owner(self.owner).first())
        self.assertEqual(Answered.objects.count(), 1)

    def test_what_the_records_do_not_say_is_asked_of_the_usual_formats(self):
        for name, width, height in (("Lone", 36, 24), ("Wide", 54, 40)):
            Body.objects.create(owner=self.owner, name=name, width_mm=width, height_mm=height)
        shelf = pool_of(self.owner)
        self.assertEqual([camera.name for camera in shelf.cameras], ["Lone", "Wide"])
        for kind in KINDS:
            for level in LEVELS:
                made = put(ROUND, 0, kind, level, shelf, Conventions(criterion="two_pixels"))
                self.assertTrue(made.posed.is_sound, kind)
                is_from_shelf = {made.case.one, made.case.other} <= {"Lone", "Wide"}
                self.assertFalse(is_from_shelf and kind in ("reach", "circle", "advert"), kind)

    def test_when_all_that_is_kept_is_full_the_oldest_makes_room(self):
        for ordinal in range(3):
            Answered.objects.create(
                owner=self.owner, round="old", ordinal=ordinal, kind="view", level="judge", is_right=True,
                answered_at=START + timedelta(days=ordinal)
            )  # fmt: skip
        with mock.patch.object(rounds, "MOST_ANSWERS", 3):
            _, token = self.put(kind="view", level="judge")
            self.say(token, 0)
        kept = list(Answered.objects.values_list("round", "ordinal"))
        self.assertEqual(kept, [("old", 1), ("old", 2), (ROUND, 0)])
        undo(ChangeSet.objects.get())
        self.assertEqual(Answered.objects.filter(round="old").count(), 3)

    def test_a_shelf_without_two_sizes_is_asked_about_the_usual_formats(self):
        pool = pool_of(self.owner)
        self.assertIn("Micro Four Thirds", [camera.name for camera in pool.cameras])
        first = put(ROUND, 0, "view", "estimate", pool, Conventions())
        self.assertEqual(first.case, put(ROUND, 0, "view", "estimate", pool, Conventions()).case)
        self.assertNotEqual(first.case, put(ROUND, 1, "view", "estimate", pool, Conventions(), 1).case)

    def test_no_question_comes_twice_in_a_round(self):
        pool = pool_of(self.owner)
        for kind in KINDS:
            made = [put(ROUND, nth, kind, "number", pool, Conventions(), nth) for nth in range(10)]
            with self.subTest(kind=kind):
                self.assertEqual(len({(one.text, one.case.one, one.case.other) for one in made}), 10)
        asked = []
        for _ in range(10):
            made, token = self.put(kind="reach", level="estimate")
            asked.append((made.ordinal, made.text, made.case.one, made.case.other))
            self.say(token, 0)
        self.assertEqual([ordinal for ordinal, *_ in asked], list(range(10)))
        self.assertEqual(len({tuple(rest) for _, *rest in asked}), 10)
