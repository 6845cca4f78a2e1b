"""Names: what people write is kept, what cannot be shown is refused, nothing is cut without a mark."""

from unittest import TestCase

from cambrel.bounds.names import clean, is_shown, shortened


class NameTests(TestCase):
    def test_scripts_and_joined_emoji_are_names(self):
        for name in (
            "Knoll 35",
            "Hügel",
            "Žluťoučký",
            "レンズ 50",
            "عدسة ۵۰",
            "नज़र",
            "👩\u200d🚒 kit",
            "🏴\U000e0067\U000e0062\U000e0073\U000e0063\U000e0074\U000e007f",
            "f/2 – old",
        ):
            with self.subTest(name):
                self.assertEqual(clean(name), name)

    def test_what_cannot_be_shown_is_refused(self):
        for text in (
            "a\x00b",
            "a\ud800",
            "\udfff",
            "a\u202eb",
            "a\u2066b",
            "bell\x07",
            "\ue000",
            "a\u200bb",
            "\ufeffa",
        ):
            with self.subTest(ascii(text)):
                self.assertFalse(is_shown(text))
                with self.assertRaisesRegex(ValueError, "cannot be shown"):
                    clean(text)
        for text in ("", "  \u00a0 "):
            with self.assertRaisesRegex(ValueError, "Give it a name"):
                clean(text)

    def test_white_space_is_put_in_order_and_length_is_said_or_marked(self):
        self.assertEqual(clean("  a \u00a0 b\n"), "a b")
        self.assertEqual(len(clean("x" * 60)), 60)
        with self.assertRaisesRegex(ValueError, "at most 60 characters. This one has 61"):
            clean("x" * 61)
        self.assertEqual((shortened("x" * 60), shortened("x" * 61)), ("x" * 60, "x" * 59 + "…"))
        self.assertEqual(shortened("Fen old", 5), "Fen…")
