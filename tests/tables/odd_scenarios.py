"""Tables that are harder to read: parts below their total, two currencies, quantities beside money, labels in
two columns or two languages, quarters among months, totals without a name."""

from __future__ import annotations

from dataclasses import replace
from decimal import Decimal

from tests.tables.content import Content, Draw, Head, Row, across, total

ROUTES = ("North route", "South route", "Island shuttle", "Night boats", "Harbour tours", "Car decks")


def parts_below(draw: Draw) -> Content:
    """A total with its parts below it, twice, and the difference."""
    width = 2
    heads = [Head((period,)) for period in draw.periods(width)]
    rows: list[Row] = []
    tops = []
    for label, names, share in (
        ("Income", ("Fares", "Freight", "Kiosks"), 1.0),
        ("Costs", ("Wages", "Fuel", "Berths", "Insurance"), 0.4),
    ):
        chosen = draw.random.sample(names, 3)
        top = len(rows)
        tops.append(top)
        below = [Row(each, draw.row(width, share), level=1) for each in chosen]
        amounts = tuple(
            sum((row.amounts[n] or Decimal(0) for row in below), Decimal(0)) for n in range(width)
        )
        rows.append(Row(label, amounts, "total", parts=tuple((top + 1 + n, 1) for n in range(3))))
        rows += below
    total(rows, "Surplus", ((tops[0], 1), (tops[1], -1)), width)
    return Content("parts below", heads, rows, periods=True)


def two_currencies(draw: Draw) -> Content:
    """The same years in one currency and in another, each column saying its unit."""
    years = draw.periods(2)
    units = draw.random.choice(
        ((("£m", 6), ("US$m", 6)), (("£'000", 3), ("€'000", 3)), (("Rs. lakhs", 5), ("USD thousands", 3)))
    )
    heads = [Head((year, text), power=power) for text, power in units for year in years]
    rows = [Row(each, draw.row(4)) for each in draw.random.sample(ROUTES, 4)]
    total(rows, "Total revenue", tuple((n, 1) for n in range(4)), 4)
    return Content("two currencies", heads, rows, own_units=True)


def quantities(draw: Draw) -> Content:
    """How many, at what price, and what that comes to."""
    names = draw.random.choice(
        (
            ("Quantity", "Unit price", "Amount"),
            ("Tickets", "Average price", "Revenue"),
            ("Calls", "Fee", "Dues"),
        )
    )
    power = draw.random.choice((0, 3))
    unit = " (£'000)" if power else ""
    heads = [Head((names[0],), "count"), Head((names[1],), "per_one"), Head((names[2] + unit,), power=power)]
    rows = []
    for label in draw.random.sample(ROUTES, 4):
        count = Decimal(draw.random.randint(110, 9_900))
        price = Decimal(draw.random.randint(250, 9_900)) / 100
        rows.append(Row(label, (count, price, round((count * price).scaleb(-power), 2))))
    rows.append(
        Row(
            "Total",
            (None, None, sum((row.amounts[2] or Decimal(0) for row in rows), Decimal(0))),
            "total",
            parts=tuple((n, 1) for n in range(4)),
        )
    )
    return Content("quantities", heads, rows, own_units=True, no_scale=not power)


def months(draw: Draw) -> Content:
    """Months with a total after each quarter, and the half year."""
    names = ("Jan", "Feb", "Mar", "Q1", "Apr", "May", "Jun", "Q2", "H1")
    added = {3: ((0, 1), (1, 1), (2, 1)), 7: ((4, 1), (5, 1), (6, 1)), 8: ((3, 1), (7, 1))}
    heads = [Head((name,), parts=added.get(n, ())) for n, name in enumerate(names)]
    rows = across([Row(each, draw.row(9)) for each in draw.random.sample(ROUTES, 3)], heads)
    total(rows, "All routes", ((0, 1), (1, 1), (2, 1)), 9)
    rows += across([Row("Running costs", draw.row(9, 0.6, -1))], heads)
    total(rows, "Contribution", ((3, 1), (4, 1)), 9)
    return Content("months", heads, rows)


def unnamed_totals(draw: Draw) -> Content:
    """Totals with nothing in the column of labels."""
    width = 2
    heads = [Head((period,)) for period in draw.periods(width)]
    rows = [Row(each, draw.row(width)) for each in ("Fares", "Freight", "Kiosks")]
    income = total(rows, "", ((0, 1), (1, 1), (2, 1)), width)
    rows += [Row(each, draw.row(width, 0.4, -1)) for each in ("Wages", "Fuel")]
    costs = total(rows, "", ((4, 1), (5, 1)), width)
    total(rows, "Operating surplus", ((income, 1), (costs, 1)), width)
    return Content("unnamed totals", heads, rows, periods=True)


def two_labels(draw: Draw) -> Content:
    """A group in one column, said once, and its lines in the next."""
    width = draw.random.choice((2, 3))
    heads = [Head((period,)) for period in draw.periods(width)]
    rows: list[Row] = []
    ends = []
    for group in ("Passenger", "Freight"):
        first = len(rows)
        for n, each in enumerate(("Home waters", "Islands", "Mainland")):
            rows.append(Row(each, draw.row(width), before=group if n == 0 else ""))
        of = tuple((n, 1) for n in range(first, len(rows)))
        ends.append(total(rows, f"{group} total", of, width))
    total(rows, "All business", tuple((n, 1) for n in ends), width)
    return Content("two labels", heads, rows, periods=True)


def two_languages(draw: Draw) -> Content:
    """Labels at both sides, in two languages."""
    width = 2
    heads = [Head((period,)) for period in draw.periods(width)]
    pairs = (
        ("Revenue", "Chiffre d'affaires"),
        ("Other income", "Autres produits"),
        ("Staff costs", "Charges de personnel"),
        ("Depreciation", "Amortissements"),
    )
    rows = [
        Row(en, draw.row(width, 2 if n < 2 else 0.4, 1 if n < 2 else -1), after=fr)
        for n, (en, fr) in enumerate(pairs)
    ]
    total(rows, "Operating profit", tuple((n, 1) for n in range(4)), width)
    rows[-1] = replace(rows[-1], after="Résultat opérationnel")
    return Content("two languages", heads, rows, periods=True)


def shares_beside(draw: Draw) -> Content:
    """Each year with its share of revenue in percent beside it."""
    years = draw.periods(2)
    sign = draw.random.choice((1, -1))
    says = draw.random.choice(("%", "% of revenue", "in %"))
    heads = [head for year in years for head in (Head((year,)), Head((says,), "percent"))]
    rows = [Row("Revenue", (draw.amount(3), None, draw.amount(3), None))]
    rows += [
        Row(each, (sign * draw.amount(0.5), None, sign * draw.amount(0.5), None))
        for each in ("Cost of sales", "Wages", "Marketing")
    ]
    total(rows, "Operating profit", ((0, 1), *((n, -sign if sign > 0 else 1) for n in (1, 2, 3))), 4)
    made = []
    for row in rows:
        amounts = list(row.amounts)
        for at in (0, 2):
            amounts[at + 1] = round(
                (amounts[at] or Decimal(0)) * 100 / (rows[0].amounts[at] or Decimal(1)), 1
            )
        made.append(replace(row, amounts=tuple(amounts)))
    return Content("shares beside", heads, made)


def numbered(draw: Draw) -> Content:
    """Lines with a number of their own before the label, as forms have them."""
    width = 2
    heads = [Head((period,)) for period in draw.periods(width)]
    form = draw.random.choice(("{}.", "{})", "{}", "roman", "({})"))
    names = ("Fares", "Freight", "Kiosks", "Wages", "Fuel", "Berths")
    roman = ("I", "II", "III", "IV", "V", "VI", "VII", "VIII", "IX")
    rows = [Row(each, draw.row(width)) for each in names[:3]]
    income = total(rows, "Total income", ((0, 1), (1, 1), (2, 1)), width)
    rows += [Row(each, draw.row(width, 0.3, -1)) for each in names[3:]]
    costs = total(rows, "Total costs", ((4, 1), (5, 1), (6, 1)), width)
    total(rows, "Result", ((income, 1), (costs, 1)), width)
    rows = [
        replace(row, before=roman[n] if form == "roman" else form.format(n + 1)) for n, row in enumerate(rows)
    ]
    return Content("numbered", heads, rows, periods=True)


def restated(draw: Draw) -> Content:
    """The year, the last one as it was published, what was restated, and as it is now."""
    now, before = draw.periods(2)
    heads = [
        Head((now,)),
        Head((f"{before} as restated",), parts=((2, 1), (3, 1))),
        Head((f"{before} as published",)),
        Head(("Restatement",)),
    ]
    rows = [Row(each, (*draw.row(3), draw.amount(0.05))) for each in ("Property", "Receivables", "Cash")]
    rows = across(rows, heads)
    total(rows, "Total assets", ((0, 1), (1, 1), (2, 1)), 4)
    return Content("restated", heads, rows)


ODD = (
    *(parts_below, two_currencies, quantities, months, unnamed_totals, two_labels, two_languages),
    *(shares_beside, numbered, restated),
)
