"""Inline XBRL: what a program reads from the page alone is what is printed, and holds the exact amount."""

import re
import unittest
from datetime import date
from decimal import Decimal, localcontext
from typing import Any

from hypothesis import given, settings
from hypothesis import strategies as st
from lxml import etree

from humble_sum.core.changes.apply import apply
from humble_sum.core.changes.change_union import read_change
from humble_sum.core.errors import InputError
from humble_sum.core.proof.pack_proof import PackProof, prove_pack
from humble_sum.core.statements.pack import Column, Line, Pack, Statement
from humble_sum.exchange.containers.issue_files import proved_in
from humble_sum.exchange.containers.last_checks import checks_of
from humble_sum.exchange.containers.new_issue import Wanted, issue
from humble_sum.exchange.containers.verification import verify
from humble_sum.exchange.inline.contexts import Dates, Undated, dates_of, dates_on
from humble_sum.exchange.inline.page import PAGE, SCHEMA, SPACES, write_inline
from humble_sum.exchange.inline.stated_facts import differences, read_inline
from humble_sum.records.demo import demo_pack
from tests.exchange.xbrl_processor import logged
from tests.making import demo_income, pack, rule, statement

IX, XBRLI = SPACES["ix"], SPACES["xbrli"]
XS, LINK, XLINK = "http://www.w3.org/2001/XMLSchema", SPACES["link"], SPACES["xlink"]
PERIOD_TYPE = f"{{{XBRLI}}}periodType"
# As the registry defines them (Transformation Registry 5): what each takes, and what it leaves out.
BLANKS, APOS = " \u00a0", "'`´’′"
TRANSFORMATIONS = {
    "ixt:num-dot-decimal": (rf"[,{BLANKS}0-9]*(\.[{BLANKS}0-9]+)?", "."),
    "ixt:num-comma-decimal": (rf"[.{BLANKS}0-9]*(,[{BLANKS}0-9]+)?", ","),
    "ixt:num-dot-decimal-apos": (rf"[,{APOS}{BLANKS}0-9]*(\.[{BLANKS}0-9]+)?", "."),
    "ixt:num-comma-decimal-apos": (rf"[.{APOS}{BLANKS}0-9]*(,[{BLANKS}0-9]+)?", ","),
}


def stated(fact: Any) -> tuple[Decimal, Decimal]:
    """A fact's value and half of its accuracy, worked out as the specification says, by another way."""
    text = "".join(fact.itertext())
    if fact.get("format") == "ixt:fixed-zero":
        number = Decimal(0)
    else:
        takes, point = TRANSFORMATIONS[fact.get("format")]
        assert re.fullmatch(takes, text), text
        digits = re.sub(rf"[^0-9\{point}]", "", text).replace(point, ".")
        number = Decimal(digits)
    value = number * Decimal(10) ** int(fact.get("scale", "0"))
    return (-value if fact.get("sign") == "-" else value), Decimal(10) ** -int(fact.get("decimals")) / 2


def noted_in(page: Any) -> set[str]:
    """The facts that have a note."""
    related = page.iter(f"{{{IX}}}relationship")
    return {id for each in related for id in each.get("fromRefs").split()}


def year_pack(of: Statement, *rules: Any) -> Pack:
    made = pack(of.model_copy(update={"title": "Income"}), *rules)
    return made.model_copy(update={"period": "Year to 31 March 2026"})


def amounts(*values: str) -> Statement:
    lines = {f"l{n}": [value] for n, value in enumerate(values)}
    return statement(lines, {"t": list(lines)}, columns=("y2026",))


class DocumentTest(unittest.TestCase):
    def test_editions_of_the_demo_read_back_by_the_rules(self) -> None:
        made = demo_pack()
        for edition in ("own", *(each.id for each in made.editions)):
            with self.subTest(edition):
                pack_proof = proved_in(made, edition)
                files = write_inline(pack_proof)
                self.sound(pack_proof, files)
                self.assertEqual(list(differences(pack_proof, files[PAGE])), [])

    def sound(self, pack_proof: PackProof, files: dict[str, bytes]) -> None:
        """Well formed; ids, contexts, units and concepts complete; values as printed; sums consistent; and an
        open processor of XBRL has nothing to say of it."""
        if all(
            len(str(each.exact or 0)) < 28
            for proof in pack_proof.proofs.values()
            for each in proof.figures.values()
        ):
            self.assertEqual(logged(files), [])  # it reckons with 28 digits itself
        page, schema = etree.fromstring(files[PAGE]), etree.fromstring(files[SCHEMA])
        ids = [element.get("id") for element in page.iter() if element.get("id")]
        self.assertEqual(len(ids), len({*ids}))
        for id in ids:
            self.assertRegex(id, r"^[A-Za-z_][\w.-]*$")
        facts = list(page.iter(f"{{{IX}}}nonFraction"))
        for kind, ref in (("context", "contextRef"), ("unit", "unitRef")):
            there = {element.get("id") for element in page.iter(f"{{{XBRLI}}}{kind}")}
            self.assertEqual(there, {fact.get(ref) for fact in facts})
        concepts = {element.get("name"): element for element in schema.iter(f"{{{XS}}}element")}
        values: dict[tuple[str, str], tuple[Decimal, Decimal, str]] = {}
        for fact in facts:
            name = fact.get("name").partition(":")[2]
            self.assertIsNone(concepts[name].get("abstract"))
            key = (name, fact.get("contextRef"))
            self.assertNotIn(key, values, "two facts that state the same")
            value, within = stated(fact)
            values[key] = (value, within, fact.get("unitRef"))
            _, id, line, column = re.fullmatch(r"(f)\.([^.]+)\.(.+)\.([^.]+)", fact.get("id")).groups()  # type: ignore[union-attr]
            figure = pack_proof.proofs[id].figures[line, column]
            assert figure.exact is not None and figure.units is not None
            self.assertEqual(value, figure.units * Decimal(10) ** figure.exponent)
            noted = fact.get("id") in noted_in(page)
            self.assertEqual(abs(value - figure.exact) > within or figure.moved, noted, fact.get("id"))
        self.assertTrue(values)
        sums: dict[str, list[tuple[str, int]]] = {}
        for arc in schema.iter(f"{{{LINK}}}calculationArc"):
            sums.setdefault(arc.get(f"{{{XLINK}}}from"), []).append(
                (arc.get(f"{{{XLINK}}}to"), int(arc.get("weight")))
            )
        for total, parts in sums.items():
            for (name, context), (value, within, _) in values.items():
                known = [(values[part, context], sign) for part, sign in parts if (part, context) in values]
                if name == total and known:
                    added = sum(sign * each[0] for each, sign in known)
                    room = within + sum(each[1] for each, _ in known)
                    self.assertLessEqual(abs(added - value), room, (total, context))
        self.assertTrue(sums)

    def test_amounts_of_any_length_are_stated_in_full(self) -> None:
        for digits in ("1234567890123456789012345678901", "9" * 40, "-" + "123456789" * 5 + ".25"):
            pack_proof = proved_in(year_pack(amounts(digits), rule("house", {"decimals": {"fixed": 2}})))
            files = write_inline(pack_proof)
            with self.subTest(digits=len(digits)):
                with localcontext(prec=200):  # of the test's own sums
                    self.sound(pack_proof, files)
                self.assertEqual(list(differences(pack_proof, files[PAGE])), [])
                self.assertIn(Decimal(digits), {fact.value for fact in read_inline(files[PAGE])})

    def test_a_nudged_figure_keeps_its_digits_and_has_a_note(self) -> None:
        made = year_pack(amounts("0.4", "0.4", "0.4"))
        footed = apply(prove_pack(made), read_change({"kind": "foot", "statement": "s"})).pack
        self.assertTrue(footed.nudges)
        pack_proof = prove_pack(footed)
        files = write_inline(pack_proof)
        page = etree.fromstring(files[PAGE])
        self.assertEqual({fact.get("decimals") for fact in page.iter(f"{{{IX}}}nonFraction")}, {"0"})
        self.assertEqual(noted_in(page), {f"f.s.{nudge.line}.y2026" for nudge in footed.nudges})
        (note,) = page.iter(f"{{{IX}}}footnote")
        self.assertIn("one step from its own rounding", note.text)
        self.assertEqual(list(differences(pack_proof, files[PAGE])), [])

    def test_a_note_says_no_more_than_is_so(self) -> None:
        """A total that is printed as the sum of ten printed parts is farther off than a nudge would be."""
        of = amounts(*["0.4"] * 10)
        lines = (*of.lines[:-1], of.lines[-1].model_copy(update={"answer": "printed"}))
        made = year_pack(of.model_copy(update={"lines": lines}))
        pack_proof = prove_pack(apply(prove_pack(made), read_change({"kind": "foot", "statement": "s"})).pack)
        figure = pack_proof.proofs["s"].figures["t", "y2026"]
        assert figure.drift is not None
        self.assertGreater(abs(figure.drift), 1)
        page = etree.fromstring(write_inline(pack_proof)[PAGE])
        (note,) = page.iter(f"{{{IX}}}footnote")
        self.assertIn("more than one unit", note.text)
        self.assertEqual(noted_in(page), {"f.s.t.y2026"})

    @settings(max_examples=60, deadline=None)
    @given(
        st.lists(st.decimals(-(10**9), 10**9, places=3, allow_nan=False), min_size=2, max_size=6),
        st.fixed_dictionaries(
            {
                "locale": st.sampled_from(["en-IN", "de", "fr", "de-CH", "en-US", "sv", "pt"]),
                "negative": st.sampled_from(
                    ["brackets", "minus", "trailing_minus", "cr", "triangle", "unsigned"]
                ),
                "zero": st.sampled_from(["figure", "dash"]),
                "scale": st.sampled_from(["ones", "thousands", "lakhs", "millions"]),
                "rounding": st.sampled_from(["half_up", "down", "away", "half_even"]),
                "decimals": st.sampled_from([{"fixed": 0}, {"fixed": 2}, {"up_to": 3}, {"significant": 3}]),
                "money_shown": st.sampled_from(["every", "caption"]),
            }
        ),
    )
    def test_whatever_the_rule_the_page_states_what_it_prints(
        self, values: list[Decimal], clauses: dict[str, Any]
    ) -> None:
        said = rule("r", clauses | {"currency": "INR"})
        pack_proof = prove_pack(year_pack(amounts(*map(str, values)), said))
        files = write_inline(pack_proof)
        self.assertEqual(list(differences(pack_proof, files[PAGE])), [])
        self.assertEqual(len(read_inline(files[PAGE])), len(values) + 1)

    def test_a_changed_digit_sign_or_time_is_found(self) -> None:
        pack_proof = prove_pack(demo_income())
        page = write_inline(pack_proof)[PAGE].decode()
        self.assertIn(">1,844<", page)
        for old, new in (
            (">1,844<", ">1,854<"),
            ('sign="-"', ""),
            ('scale="5"', 'scale="3"'),
            ('decimals="-5"', 'decimals="2"'),
            ("from-2025-04-01", "from-2024-04-01"),
            ("<xbrli:startDate>2025", "<xbrli:startDate>2023"),
            ("iso4217:INR", "iso4217:USD"),
        ):
            with self.subTest(old):
                self.assertIn(old, page)
                try:
                    found = list(differences(pack_proof, page.replace(old, new, 1).encode()))
                except InputError as refused:
                    found = [("", str(refused))]
                self.assertTrue(found)
        for bad in (page[:-20], "<!DOCTYPE x>" + page, page.replace(">1,844<", ">1,8x4<")):
            with self.assertRaises(InputError):
                list(differences(pack_proof, bad.encode()))


COAST = {"prefix": "coast", "namespace": "https://coast.example/2026", "schema_at": "urn:coast:2026.xsd"}


def tagged(made: Pack, *lines: tuple[str, str, str, bool]) -> PackProof:
    """The pack with lines of statements tagged with concepts of another taxonomy."""
    changes: list[dict[str, Any]] = [{"kind": "set_taxonomies", "taxonomies": [COAST]}]
    for of, line, concept, negated in lines:
        said = {"statement": of, "line": line, "concept": concept, "negated": negated}
        changes.append({"kind": "set_concept"} | said)
    for change in changes:
        made = apply(prove_pack(made), read_change(change)).pack
    return prove_pack(made)


class OtherTaxonomyTest(unittest.TestCase):
    def test_lines_are_tagged_with_concepts_of_others(self) -> None:
        lines = (("income", "costs", "coast:Expense", True), ("income", "tot", "coast:Income", False))
        pack_proof = tagged(demo_pack(), *lines)
        files = write_inline(pack_proof)
        self.assertEqual(list(differences(pack_proof, files[PAGE])), [])
        page, schema = etree.fromstring(files[PAGE]), etree.fromstring(files[SCHEMA])
        self.assertEqual(page.nsmap["coast"], COAST["namespace"])
        facts = {fact.get("id"): fact for fact in page.iter(f"{{{IX}}}nonFraction")}
        costs = facts["f.income.costs.y26"]
        self.assertEqual(costs.get("name"), "coast:Expense")
        value, within = stated(costs)
        exact = pack_proof.proofs["income"].figures["costs", "y26"].exact
        assert exact is not None
        self.assertLess(exact, 0)
        self.assertLessEqual(abs(value + exact), within, "stated with the other sign")
        # The schema takes the other in, declares nothing of its own for the line, and points at it.
        imported = [each.get("schemaLocation") for each in schema.iter(f"{{{XS}}}import")]
        self.assertIn(COAST["schema_at"], imported)
        declared = {each.get("name") for each in schema.iter(f"{{{XS}}}element")}
        self.assertNotIn("income.costs", declared)
        self.assertIn("income.fuel", declared)
        places = {
            each.get(f"{{{XLINK}}}label"): each.get(f"{{{XLINK}}}href")
            for each in schema.iter(f"{{{LINK}}}loc")
        }
        at = [label for label, href in places.items() if href == f"{COAST['schema_at']}#coast_Expense"]
        arcs = [
            (arc.get(f"{{{XLINK}}}from"), arc.get(f"{{{XLINK}}}to"), arc.get("weight"))
            for arc in schema.iter(f"{{{LINK}}}calculationArc")
        ]
        # Costs are below zero here: what adds to them is taken away from what is above zero there.
        self.assertIn((at[0], "income.fuel", "-1"), arcs)
        self.assertTrue({end for arc in arcs for end in arc[:2]} <= set(places))

    def test_two_lines_under_one_concept_state_the_same_or_are_refused(self) -> None:
        same = (("income", "net", "coast:Surplus", False), ("cash", "surplus", "coast:Surplus", False))
        demo = demo_pack()
        cash = next(each for each in demo.statements if each.id == "cash")
        line = next(each.id for each in cash.lines if "urplus" in each.label)
        pack_proof = tagged(demo, same[0], ("cash", line, "coast:Surplus", False))
        self.assertEqual(list(differences(pack_proof, write_inline(pack_proof)[PAGE])), [])
        with self.assertRaises(InputError) as caught:
            write_inline(tagged(demo, same[0], ("income", "tot", "coast:Surplus", False)))
        self.assertIn("Total income of Income", str(caught.exception))

    def test_taxonomies_and_concepts_that_cannot_be_are_refused(self) -> None:
        pack_proof = tagged(demo_pack(), ("income", "net", "coast:Surplus", False))
        of = {"kind": "set_concept", "statement": "income", "line": "net"}
        every = {"kind": "set_taxonomies", "taxonomies": []}
        for change in (
            of | {"concept": "inland:Surplus"},
            of | {"concept": "coast:Surplus", "line": "none"},
            every | {"taxonomies": [COAST, COAST]},
            every | {"taxonomies": [COAST | {"prefix": "XBRLI"}]},
        ):
            with self.subTest(change), self.assertRaises(InputError):
                apply(pack_proof, read_change(change))
        for change in (of | {"concept": "Surplus"}, every | {"taxonomies": [COAST | {"namespace": "a b"}]}):
            with self.subTest(change), self.assertRaises(InputError):
                read_change(change)
        left, _ = apply(pack_proof, read_change(every))
        net = left.statements[0].line("net")
        assert net is not None
        self.assertEqual((net.concept, left.taxonomies), (None, ()), "its own again")


class RefusedTest(unittest.TestCase):
    def refused(self, made: Pack) -> str:
        with self.assertRaises(InputError) as caught:
            write_inline(prove_pack(made))
        self.assertEqual(caught.exception.kind, "cannot-tag")
        return str(caught.exception)

    def test_what_cannot_be_tagged_says_why(self) -> None:
        of = amounts("1", "2")
        undated = statement({"a": ["1"]}, {}, columns=("now",))
        self.assertIn("no date", self.refused(year_pack(undated)))
        self.assertIn("how long", self.refused(year_pack(of).model_copy(update={"period": "31 March 2026"})))
        planned = of.model_copy(update={"columns": (Column(id="y2026", label="Budget 2026"),)})
        self.assertIn("planned is not a fact", self.refused(year_pack(planned)))
        for no_day in ("31 June 2026", "29 February 2025"):
            made = year_pack(of.model_copy(update={"columns": (Column(id="y2026", label=no_day),)}))
            self.assertIn("no such day", self.refused(made))
        self.assertIn("which day", self.refused(year_pack(of).model_copy(update={"period": "The year"})))
        plain = year_pack(of).statements[0].model_copy(update={"title": "Note 7"})
        self.assertIn(
            "at a day or over", self.refused(year_pack(of).model_copy(update={"statements": (plain,)}))
        )
        words = rule("r", {"zero": {"word": "1 or 2"}})
        self.assertIn("No figure of it", self.refused(year_pack(amounts("0"), words)))
        twice = statement({"a": ["1", "2"]}, {}, columns=("y2026", "restated2026"))
        columns = tuple(c.model_copy(update={"label": f"{c.id[:-4]} 2026"}) for c in twice.columns)
        self.assertIn(
            "both would state", self.refused(year_pack(twice.model_copy(update={"columns": columns})))
        )

    def test_a_source_break_is_not_stated_as_a_sum(self) -> None:
        broken = statement({"a": ["1"], "b": ["2"]}, {"t": ["a", "b"]}, ("y2026",), stated={"t": ["9"]})
        files = write_inline(prove_pack(year_pack(broken)))
        self.assertNotIn(b"calculationArc", files[SCHEMA])
        pack_proof = write_inline(prove_pack(year_pack(amounts("1", "2"))))
        self.assertIn(b"calculationArc", pack_proof[SCHEMA])

    def test_hostile_words_stay_words(self) -> None:
        made = year_pack(amounts("1"))
        line = made.statements[0].lines[0].model_copy(update={"label": "<b>&\x01\ud800 ]]> \"'"})
        of = made.statements[0].model_copy(update={"lines": (line, *made.statements[0].lines[1:])})
        files = write_inline(prove_pack(made.model_copy(update={"statements": (of,), "entity": "<x>"})))
        for data in files.values():
            etree.fromstring(data)


class DatesTest(unittest.TestCase):
    def dates(self, title: str, *columns: Column, period: str = "Year to 31 March 2026") -> list[str]:
        of = statement({"a": ["1"]}, {}, columns=("x",)).model_copy(
            update={"title": title, "columns": columns}
        )
        made = year_pack(amounts("1")).model_copy(update={"period": period})
        return [dates.id for dates in dates_of(made, of).values()]

    def test_days_months_years_and_quarters(self) -> None:
        day = Column(id="d", label="D", date="2026-03-31")
        self.assertEqual(self.dates("Financial position", day), ["on-2026-03-31"])
        self.assertEqual(self.dates("Income", day), ["from-2025-04-01-to-2026-03-31"])
        leap = Column(id="l", label="Year to 29 February 2024")
        self.assertEqual(self.dates("Income", leap), ["from-2023-03-01-to-2024-02-29"])
        months = [Column(id=f"m{n}", label=f"M{n}", date=f"2025-{n:02}") for n in (4, 5, 6)]
        quarter = Column(id="q", label="Q1", sum=("m4", "m5", "m6"))
        self.assertEqual(self.dates("Sales", *months, quarter)[-1], "from-2025-04-01-to-2025-06-30")
        self.assertEqual(self.dates("Balances", months[0]), ["on-2025-04-30"])
        self.assertEqual(
            self.dates("Income", Column(id="s", label="2024–25")), ["from-2024-04-01-to-2025-03-31"]
        )

    def test_a_part_of_a_year_is_not_stated_as_the_year(self) -> None:
        calendar = "Year ended 31 December 2026"
        for label, period, wanted in (
            ("Q1 2026", calendar, "from-2026-01-01-to-2026-03-31"),
            ("3Q2026", calendar, "from-2026-07-01-to-2026-09-30"),
            ("H2 2025", calendar, "from-2025-07-01-to-2025-12-31"),
            ("9M 2026", calendar, "from-2026-01-01-to-2026-09-30"),
            ("Six months 2026", calendar, "from-2026-01-01-to-2026-06-30"),
            ("FY 2026", calendar, "from-2026-01-01-to-2026-12-31"),
            ("Quarter ended 30 June 2026", "Year ended 31 March 2027", "from-2026-04-01-to-2026-06-30"),
            ("Six months ended 30 September 2026", "2026", "from-2026-04-01-to-2026-09-30"),
            ("2026", "Half-year ended 30 June 2026", "from-2026-01-01-to-2026-06-30"),
            ("2025", "Three months to 31 May 2026", "from-2025-03-01-to-2025-05-31"),
        ):
            with self.subTest(label):
                self.assertEqual(self.dates("Income", Column(id="c", label=label), period=period), [wanted])
        last = [Column(id="c", label="Q2 2026")]
        self.assertEqual(self.dates("Financial position", *last, period=calendar), ["on-2026-06-30"])
        for label, period in (
            ("Q1 2026", "Year ended 31 March 2026"),  # a quarter of which year?
            ("Q3H 2026", "2026"),
            ("H4 2026", calendar),
            ("Quarter 2026", calendar),
            ("Q1–Q3 2026", calendar),
            ("Year to date 30 June 2026", calendar),
            ("30 June 2026", "Year to date"),
            ("YTD 2026", calendar),
        ):
            with self.subTest(label), self.assertRaises(Undated):
                self.dates("Income", Column(id="c", label=label), period=period)

    def test_balances_in_a_statement_over_a_time_are_at_its_first_or_last_day(self) -> None:
        year = Dates(date(2026, 3, 31), date(2025, 4, 1))
        for label, wanted in (
            ("Opening cash", "on-2025-03-31"),
            ("Cash and cash equivalents at the beginning of the year", "on-2025-03-31"),
            ("Balance b/f", "on-2025-03-31"),
            ("Cash at 1 April 2025", "on-2025-03-31"),
            ("Closing balance", "on-2026-03-31"),
            ("Bank balances at end of period", "on-2026-03-31"),
            ("Cash as at 31 March", year.id),  # of which year is not said
            ("Cash at 31 March 2026", "on-2026-03-31"),
            ("Cash at 30 June 2026", year.id),
            ("Opening of new piers", year.id),
            ("Closing costs of loans", year.id),
            ("Net change in cash", year.id),
        ):
            with self.subTest(label):
                self.assertEqual(dates_on(Line(id="l", label=label), year).id, wanted)
        day = Dates(date(2026, 3, 31))
        self.assertEqual(dates_on(Line(id="l", label="Opening cash"), day), day)

    def test_a_movement_and_its_balance_are_stated_at_their_own_times(self) -> None:
        flows = statement({"net": ["3"], "opening": ["4"]}, {"closing": ["net", "opening"]}, ("y2026",))
        labels = {"net": "Net change in cash", "opening": "Opening cash", "closing": "Closing cash"}
        lines = tuple(line.model_copy(update={"label": labels[line.id]}) for line in flows.lines)
        made = year_pack(flows.model_copy(update={"lines": lines}))
        of = made.statements[0].model_copy(update={"title": "Statement of cash flows"})
        files = write_inline(prove_pack(made.model_copy(update={"statements": (of,)})))
        schema, page = etree.fromstring(files[SCHEMA]), etree.fromstring(files[PAGE])
        kinds = {each.get("name"): each.get(PERIOD_TYPE) for each in schema.iter(f"{{{XS}}}element")}
        found = {name.partition(".")[2]: kind for name, kind in kinds.items()}
        self.assertEqual(found, {"net": "duration", "opening": "instant", "closing": "instant"})
        self.assertNotIn(b"calculationArc", files[SCHEMA])
        contexts = {fact.get("contextRef") for fact in page.iter(f"{{{IX}}}nonFraction")}
        self.assertEqual(contexts, {"from-2025-04-01-to-2026-03-31", "on-2025-03-31", "on-2026-03-31"})

    def test_a_balance_at_a_day_of_one_column_is_refused(self) -> None:
        of = statement({"cash": ["1", "2"]}, {}, columns=("y2026", "y2025"))
        lines = tuple(line.model_copy(update={"label": "Cash at 31 March 2026"}) for line in of.lines)
        made = year_pack(of.model_copy(update={"lines": lines}))
        with self.assertRaises(InputError) as refused:
            write_inline(prove_pack(made))
        self.assertIn("some columns only", str(refused.exception))

    def test_a_sum_with_a_hole_has_no_dates(self) -> None:
        months = [Column(id=f"m{n}", label=f"M{n}", date=f"2025-{n:02}") for n in (4, 6)]
        with self.assertRaises(Undated):
            self.dates("Sales", *months, Column(id="q", label="Q", sum=("m4", "m6")))


class IssuedTest(unittest.TestCase):
    def test_it_goes_out_and_is_verified(self) -> None:
        pack_proof = prove_pack(demo_income())
        wanted = Wanted(
            "A", "B", files=("xbrl",), reasons={check.id: "known" for check in checks_of(pack_proof)}
        )
        told, data = issue(pack_proof, 1, "2026-11-26T12:00:00Z", wanted)
        self.assertLessEqual({PAGE, SCHEMA}, {each.name for each in told.files})
        said = verify(data)
        self.assertTrue(said.holds)
        self.assertTrue(any(PAGE in each for each in said.shown))


if __name__ == "__main__":
    unittest.main()
