"""What a change costs, worked by hand."""

from unittest import TestCase

from cambrel.decisions.costs import Worth, change_costs
from cambrel.wording import sentence


class CostsTests(TestCase):
    def test_new_used_and_rented_after_selling_what_goes(self):
        comes = Worth("New lens", "EUR", new=1200, used=700, rent_a_day=45)
        goes = Worth("Old lens", "EUR", resale=800)
        self.assertEqual([sentence(one).replace("\u00a0", " ") for one in change_costs(comes, goes)], [
            "After selling Old lens for 800 EUR it costs 400 EUR.",
            "Used it costs 700 EUR and, after selling Old lens, leaves 100 EUR over.",
            # 26 days are 1,170 EUR, 27 are 1,215 EUR
            "Renting it is 45 EUR a day: buying it new pays from 27 days on.",
        ])  # fmt: skip

    def test_two_currencies_are_never_set_against_each_other(self):
        said = change_costs(Worth("New lens", "EUR", new=1200), Worth("Old lens", "GBP", resale=800))
        self.assertEqual(said, [])
        self.assertEqual(change_costs(None, None), [])
