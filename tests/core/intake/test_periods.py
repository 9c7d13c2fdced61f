"""Periods as headings name them, in every language whose months are known."""

from __future__ import annotations

import tomllib
import unittest
from importlib.resources import files

from humble_sum.core.intake.period_words import folded, month_numbers
from humble_sum.core.intake.periods import NUMBERED, YEAR_ALONE, Period, period_of

WORDS = files("humble_sum.core.intake") / "words/periods.toml"


class PeriodTest(unittest.TestCase):
    def test_dates_as_people_write_them(self) -> None:
        for text, period in {
            "31-Mar-2027": Period(2027, 3, 31),
            "31Mar2027": Period(2027, 3, 31),
            "As at 31 March 2027": Period(2027, 3, 31),
            "Year ended March 31, 2027": Period(2027, 3, 31),
            "Year ended March 31st, 2027": Period(2027, 3, 31),
            "3 months to 30 June 2027": Period(2027, 6, 30),
            "2027-03-31": Period(2027, 3, 31),
            "31.03.2027": Period(2027, 3, 31),
            "31/03/2027": Period(2027, 3, 31),
            "03/04/2027": Period(2027),
            "2026–27": Period(2027),
            "FY27": Period(2027),
            "Mar 2027": Period(2027, 3),
            "Mar'27": Period(2027, 3),
            "Q1 Mar-27": Period(2027, 3),
            "2027": Period(2027),
            "1er janvier 2027": Period(2027, 1, 1),
            "31 de marzo de 2027": Period(2027, 3, 31),
            "1º de janeiro de 2027": Period(2027, 1, 1),
            "за год по 31 декабря 2027 года": Period(2027, 12, 31),
            "2027. március 31.": Period(2027, 3, 31),
            "2027 m. kovo 31 d.": Period(2027, 3, 31),
            "2027年3月31日": Period(2027, 3, 31),
            "2027년 3월": Period(2027, 3),
            "31 มีนาคม 2570": Period(2027, 3, 31),
            "Mär 27": Period(2027, 3),
        }.items():
            self.assertEqual(period_of(text), period, text)
        for text in (
            "Change",
            "Note 2",
            "Q1",
            "12345",
            "",
            "12 Mar",
            "Market 26",
            "Phase-out 26",
            "Maritime 26",
        ):
            self.assertIsNone(period_of(text), text)

    def test_a_word_that_begins_as_a_month_is_none(self) -> None:
        for text in ("Margin 2027", "Decrease 2027", "Phase-out 2027", "Data set 2027", "Junior notes 2027"):
            self.assertEqual(period_of(text), Period(2027), text)

    def test_months_of_every_language_are_found_in_dates(self) -> None:
        told = tomllib.loads(WORDS.read_text(encoding="utf-8"))["months"]
        for language, months in told.items():
            self.assertEqual(len(months), 12, language)
            for number, forms in enumerate(months, 1):
                for form in forms.split("|"):
                    month = number if folded(form) in month_numbers() else None  # another month's elsewhere
                    with self.subTest(language=language, form=form):
                        self.assertEqual(
                            period_of(f"28. {form.upper()} 2027"), Period(2027, month, month and 28)
                        )
                        self.assertEqual(period_of(f"{form} 2027"), Period(2027, month))
        named_twice = {folded(form) for year in told.values() for forms in year for form in forms.split("|")}
        self.assertLess(len(named_twice - {*month_numbers()}), 12)

    def test_parts_of_a_year_have_numbers(self) -> None:
        for text in ("Q3", "Week 12", "Quarter 3", "2. Quartal", "1er semestre", "3e trimestre", "P7"):
            self.assertIsNotNone(NUMBERED.fullmatch(text), text)
        for text in ("Note 3", "Total 2027", "Quartal"):
            self.assertIsNone(NUMBERED.fullmatch(text), text)
        self.assertIsNotNone(YEAR_ALONE.fullmatch("Actual 2027"))
        for text in ("Q1 2027", "2. Quartal 2027", "Halbjahr 2027"):
            self.assertIsNone(YEAR_ALONE.fullmatch(text), text)


if __name__ == "__main__":
    unittest.main()
