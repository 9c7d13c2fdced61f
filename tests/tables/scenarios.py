"""The kinds of tables that analysts hand over, with amounts drawn for each."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from decimal import Decimal

from tests.tables.content import Content, Draw, Head, Row, across, total

Scenario = Callable[[Draw], Content]


def income(draw: Draw) -> Content:
    """An income statement of a trading company, costs positive or negative."""
    say, width = draw.words, draw.random.choice((1, 2, 2, 2, 3, 4))
    heads = [Head((period,)) for period in draw.periods(width)]
    sign = draw.random.choice((1, -1))
    rows = [Row(say["revenue"], draw.row(width, 3.0)), Row(say["other_income"], draw.row(width, 0.3))]
    income_total = total(rows, say["income_total"], ((0, 1), (1, 1)), width)
    costs = draw.random.sample(
        ("materials", "staff", "depreciation", "finance"), draw.random.choice((2, 3, 4))
    )
    first = len(rows)
    rows += [Row(say[each], draw.row(width, 0.5, sign)) for each in costs]
    of = tuple((n, 1) for n in range(first, len(rows)))
    spent = total(rows, say["expenses"], of, width)
    before = total(rows, say["before_tax"], ((income_total, 1), (spent, sign * -1 if sign > 0 else 1)), width)
    rows.append(Row(say["tax"], draw.row(width, 0.1, sign)))
    total(rows, say["profit"], ((before, 1), (len(rows) - 1, -1 if sign > 0 else 1)), width)
    return Content("income", heads, rows, periods=True)


def balance(draw: Draw) -> Content:
    """A balance sheet with headings, assets above equity and liabilities."""
    say, width = draw.words, draw.random.choice((1, 2, 2, 3))
    heads = [Head((period,)) for period in draw.periods(width)]
    rows: list[Row] = []
    assets = draw.random.sample(("property", "intangible", "inventory", "receivables"), 3)
    rows += [Row(say[each], draw.row(width)) for each in assets]
    rows.append(Row(say["cash"], draw.row(width, 0.2)))
    all_assets = total(rows, say["assets"], tuple((n, 1) for n in range(len(rows))), width)
    first = len(rows)
    rows += [Row(say[each], draw.row(width, 0.3)) for each in ("capital", "loans", "payables")]
    so_far = [sum((row.amounts[n] or Decimal(0) for row in rows[first:]), Decimal(0)) for n in range(width)]
    left = tuple((rows[all_assets].amounts[n] or Decimal(0)) - so_far[n] for n in range(width))
    rows.insert(first + 1, Row(say["reserves"], left))
    total(rows, say["liabilities"], tuple((n, 1) for n in range(first, len(rows))), width)
    return Content("balance", heads, rows, periods=True)


def bank(draw: Draw) -> Content:
    """Interest, fees and impairment of a bank."""
    width = 2
    heads = [Head((period,)) for period in draw.periods(width)]
    rows = [Row("Interest income", draw.row(width, 2)), Row("Interest expense", draw.row(width, 0.5, -1))]
    interest = total(rows, "Net interest income", ((0, 1), (1, 1)), width)
    rows += [Row("Fee income", draw.row(width, 0.6)), Row("Fee expense", draw.row(width, 0.1, -1))]
    fees = total(rows, "Net fee income", ((3, 1), (4, 1)), width)
    income_total = total(rows, "Operating income", ((interest, 1), (fees, 1)), width)
    rows.append(Row("Impairment charge on loans", draw.row(width, 0.2, -1)))
    rows.append(Row("Operating expenses", draw.row(width, 0.4, -1)))
    profit = total(rows, "Profit before tax", ((income_total, 1), (7, 1), (8, 1)), width)
    rows.append(Row("Taxation", draw.row(width, 0.1, -1)))
    total(rows, "Profit for the period", ((profit, 1), (len(rows) - 1, 1)), width)
    return Content("bank", heads, rows, periods=True)


def insurer(draw: Draw) -> Content:
    """The technical account of an insurer, with its ratios in percent."""
    width = 2
    heads = [Head((period,)) for period in draw.periods(width)]
    rows = [
        Row("Gross written premiums", draw.row(width, 2)),
        Row("Premiums ceded", draw.row(width, 0.3, -1)),
    ]
    net = total(rows, "Net premiums", ((0, 1), (1, 1)), width)
    rows += [
        Row("Claims incurred", draw.row(width, 1, -1)),
        Row("Acquisition costs", draw.row(width, 0.2, -1)),
    ]
    total(rows, "Underwriting result", ((net, 1), (3, 1), (4, 1)), width)
    for label in ("Loss ratio (%)", "Combined ratio (%)"):
        points = tuple(Decimal(draw.random.randint(301, 1099)) / 10 for _ in range(width))
        rows.append(Row(label, points, measure="percent"))
    return Content("insurer", heads, rows, periods=True)


def charity(draw: Draw) -> Content:
    """A statement of financial activities: funds as columns, and their total."""
    heads = [Head(("Unrestricted funds",)), Head(("Restricted funds",)), Head(("Endowment funds",))]
    heads.append(Head(("Total funds",), parts=((0, 1), (1, 1), (2, 1))))
    width = 4
    rows = [Row(each, draw.row(width)) for each in ("Donations and legacies", "Grants", "Trading activities")]
    rows[0] = replace(rows[0], amounts=(*rows[0].amounts[:2], None, None))
    rows = across(rows, heads)
    income_total = total(rows, "Total income", ((0, 1), (1, 1), (2, 1)), width)
    rows += across(
        [Row(each, draw.row(width, 0.4)) for each in ("Raising funds", "Charitable activities")], heads
    )
    spent = total(rows, "Total expenditure", ((4, 1), (5, 1)), width)
    total(rows, "Net income", ((income_total, 1), (spent, -1)), width)
    return Content("charity", heads, rows)


def variance(draw: Draw) -> Content:
    """Budget, actual and variance, with the variance in percent or without."""
    names = draw.random.choice((("Budget", "Actual", "Variance"), ("Plan", "Actual", "Difference")))
    heads = [Head((names[0],)), Head((names[1],)), Head((names[2],), parts=((1, 1), (0, -1)))]
    share = draw.random.random() < 0.5
    if share:
        heads.append(Head(("%",), "percent"))
    rows: list[Row] = []
    for label in draw.random.sample(
        ("Council tax", "Fees and charges", "Government grants", "Parking", "Rents", "Licences"), 4
    ):
        rows.append(Row(label, (*draw.row(2), None, *([None] if share else []))))
    rows = across(rows, heads)
    total(rows, "Total income", tuple((n, 1) for n in range(4)), 3)
    if share:
        made = []
        for row in rows:
            budget, _, off, *_ = row.amounts
            points = round((off or Decimal(0)) * 100 / budget, 1) if budget else None
            made.append(replace(row, amounts=(*row.amounts[:3], points)))
        rows = made
    return Content("variance", heads, rows)


def trial_balance(draw: Draw) -> Content:
    """Accounts with their debits and credits, both totals equal."""
    heads = [Head(("Debit",)), Head(("Credit",))]
    names = ["Cash at bank", "Trade debtors", "Motor vehicles", "Purchases", "Wages"]
    rows = [Row(name, (draw.amount(), None)) for name in draw.random.sample(names, 4)]
    debits = sum((row.amounts[0] or Decimal(0) for row in rows), Decimal(0))
    first = draw.rounded(debits * Decimal("0.6"))
    second = draw.rounded(debits * Decimal("0.3"))
    for name, amount in (("Sales", first), ("Trade creditors", second), ("Capital", debits - first - second)):
        rows.append(Row(name, (None, amount)))
    total(rows, "Total", tuple((n, 1) for n in range(len(rows))), 2)
    return Content("trial balance", heads, rows)


def balances(draw: Draw) -> Content:
    """Accounts with one balance each and its side: debits positive, credits negative, nothing over."""
    names = draw.random.sample(
        ["Cash at bank", "Trade debtors", "Motor vehicles", "Purchases", "Wages", "Rent", "Insurance"], 5
    )
    rows = [Row(name, (draw.amount(),)) for name in names]
    debits = sum((row.amounts[0] or Decimal(0) for row in rows), Decimal(0))
    first = draw.rounded(debits * Decimal("0.7"))
    for name, amount in (("Sales", first), ("Share capital", debits - first)):
        rows.append(Row(name, (-amount,)))
    return Content("balances", [Head(("Balance",))], rows, debit_credit=True)


def roll_forward(draw: Draw) -> Content:
    """Property by class, from opening to closing, lines down and classes across."""
    names = ("Land and buildings", "Vessels", "Equipment")
    heads = [Head((name,)) for name in names]
    heads.append(Head(("Total",), parts=((0, 1), (1, 1), (2, 1))))
    width, year = 4, draw.random.choice((2025, 2026))
    rows = [
        Row(f"At 1 January {year}", draw.row(width, 2)),
        Row("Additions", draw.row(width, 0.4)),
        Row("Disposals", draw.row(width, 0.1, -1)),
        Row("Exchange differences", draw.row(width, 0.05, draw.random.choice((1, -1)))),
    ]
    rows = across(rows, heads)
    total(rows, f"At 31 December {year}", tuple((n, 1) for n in range(4)), width)
    return Content("roll-forward", heads, rows)


def equity(draw: Draw) -> Content:
    """Changes in equity: components as columns, with gaps."""
    names = ("Share capital", "Share premium", "Retained earnings")
    heads = [Head((name,)) for name in names]
    heads.append(Head(("Total equity",), parts=((0, 1), (1, 1), (2, 1))))
    capital, premium = draw.amount(0.5), draw.amount(0.2)
    profit, paid, raised = draw.amount(0.4), -draw.amount(0.1), draw.amount(0.1)
    rows = [
        Row("Balance at 1 January", (capital, premium, draw.amount(2), None)),
        Row("Profit for the year", (None, None, profit, None)),
        Row("Dividends", (None, None, paid, None)),
        Row("Issue of shares", (raised, raised, None, None)),
    ]
    rows = across(rows, heads)
    total(rows, "Balance at 31 December", tuple((n, 1) for n in range(4)), 4)
    return Content("equity", heads, rows)


def segments(draw: Draw) -> Content:
    """Segments as columns, with what falls away between them."""
    names = ["Passenger", "Freight", "Terminals"][: draw.random.choice((2, 3))]
    heads = [Head((name,)) for name in (*names, "Eliminations")]
    heads.append(Head(("Group",), parts=tuple((n, 1) for n in range(len(heads)))))
    width = len(heads)
    rows = []
    for label, share in (("External revenue", 1.0), ("Inter-segment revenue", 0.2)):
        row = list(draw.row(width, share))
        row[-2] = -draw.amount(0.05)
        rows.append(Row(label, tuple(row)))
    rows = across(rows, heads)
    revenue = total(rows, "Total revenue", ((0, 1), (1, 1)), width)
    rows += across([Row("Operating costs", draw.row(width, 0.4, -1))], heads)
    total(rows, "Segment result", ((revenue, 1), (3, 1)), width)
    return Content("segments", heads, rows)


def ageing(draw: Draw) -> Content:
    """Receivables by days past due, and their total."""
    names = draw.random.choice(
        (
            ("Not due", "1-30 days", "31-60 days", "Over 60 days"),
            ("Current", "30 days", "60 days", "90 days", "120+ days"),
            ("0–90 days", "91–180 days", "> 180 days"),
        )
    )
    heads = [Head((name,)) for name in names]
    heads.append(Head(("Total",), parts=tuple((n, 1) for n in range(len(names)))))
    rows = [
        Row(each, draw.row(len(heads), 0.4)) for each in ("Harbour Foods", "Isle Post", "Mainland Motors")
    ]
    rows = across(rows, heads)
    total(rows, "Total receivables", ((0, 1), (1, 1), (2, 1)), len(heads))
    return Content("ageing", heads, rows)


def maturities(draw: Draw) -> Content:
    """Borrowings by when they fall due, bonds called by their coupon."""
    heads = [Head((name,)) for name in ("Within 1 year", "1–5 years", "Over 5 years")]
    heads.append(Head(("Total",), parts=((0, 1), (1, 1), (2, 1))))
    labels = ("Bank loans", "5.5% notes 2031", "Lease liabilities", "4% bonds")
    rows = across([Row(each, draw.row(4)) for each in draw.random.sample(labels, 3)], heads)
    total(rows, "Total borrowings", ((0, 1), (1, 1), (2, 1)), 4)
    return Content("maturities", heads, rows)


def sales_tax(draw: Draw) -> Content:
    """Sales by rate of tax: percentages in heads of money."""
    heads = [Head(("Sales 19%",)), Head(("Sales 7%",)), Head(("Exempt",))]
    heads.append(Head(("Total",), parts=((0, 1), (1, 1), (2, 1))))
    rows = across([Row(each, draw.row(4)) for each in ("January", "February", "March")], heads)
    total(rows, "Quarter", ((0, 1), (1, 1), (2, 1)), 4)
    return Content("sales tax", heads, rows)


def tax_reconciliation(draw: Draw) -> Content:
    """Tax at the standard rate, what moves it, and the rate that comes of it."""
    width = 2
    heads = [Head((period,)) for period in draw.periods(width)]
    rows = [Row("Profit before tax", draw.row(width, 4))]
    at_rate = tuple(draw.rounded((amount or Decimal(0)) / 4) for amount in rows[0].amounts)
    rows.append(Row("Tax at 25%", at_rate))
    rows += [
        Row("Expenses not deductible", draw.row(width, 0.05)),
        Row("Income not taxable", draw.row(width, 0.04, -1)),
        Row("Effect of tax rates in other countries", draw.row(width, 0.03)),
    ]
    total(rows, "Total tax charge", ((1, 1), (2, 1), (3, 1), (4, 1)), width)
    charge = rows[-1].amounts
    points = tuple(
        round((tax or Decimal(0)) * 100 / (profit or Decimal(1)), 1)
        for tax, profit in zip(charge, rows[0].amounts, strict=True)
    )
    rows.append(Row("Effective tax rate", points, measure="percent", unit="%"))
    return Content("tax reconciliation", heads, rows, periods=True)


def quarters(draw: Draw) -> Content:
    """Four quarters and the year to date."""
    heads = [Head((f"Q{n}",)) for n in range(1, 5)]
    heads.append(Head(("Year to date",), parts=((0, 1), (1, 1), (2, 1), (3, 1))))
    say = draw.words
    rows = across([Row(say["revenue"], draw.row(5, 2)), Row(say["staff"], draw.row(5, 0.6, -1))], heads)
    rows += across([Row(say["depreciation"], draw.row(5, 0.1, -1))], heads)
    total(rows, say["profit"], ((0, 1), (1, 1), (2, 1)), 5)
    return Content("quarters", heads, rows)


def indicators(draw: Draw) -> Content:
    """Money beside counts, percentages, ratios and amounts for one of something."""
    width = 2
    heads = [Head((period,)) for period in draw.periods(width)]
    rows = [Row("Passenger revenue", draw.row(width, 2)), Row("Freight revenue", draw.row(width, 1))]
    total(rows, "Total revenue", ((0, 1), (1, 1)), width)
    whole = draw.random.randint
    counted = tuple(Decimal(whole(120, 4_000)) for _ in range(width))
    few = tuple(Decimal(whole(7, 60)) for _ in range(width))
    points = tuple(Decimal(whole(311, 989)) / 10 for _ in range(width))
    pence, fares, each = (tuple(Decimal(whole(800, 6_000)) / 100 for _ in range(width)) for _ in range(3))
    times = tuple(Decimal(whole(11, 45)) / 10 for _ in range(width))
    extra = [
        Row("Number of employees", counted, measure="count"),
        Row("Vessels in service", few, measure="count", open=True),
        Row("Load factor (%)", points, measure="percent"),
        Row("Revenue per passenger (£)", each, measure="per_one"),
        Row("Earnings per share (pence)", pence, measure="per_one"),
        Row("Net debt / EBITDA (x)", times, measure="ratio"),
        Row("Average fare (£)", fares, measure="per_one"),
        Row("Fuel used (kt)", times, measure="count"),
    ]
    rows += draw.random.sample(extra, draw.random.choice((2, 3, 4)))
    return Content("indicators", heads, rows, periods=True)


def fund(draw: Draw) -> Content:
    """Net assets of a fund, with its units and their price."""
    width = 2
    heads = [Head((period,)) for period in draw.periods(width)]
    rows = [Row("Investments at fair value", draw.row(width, 4)), Row("Cash", draw.row(width, 0.2))]
    rows.append(Row("Payables", draw.row(width, 0.1, -1)))
    total(rows, "Net assets attributable to unitholders", ((0, 1), (1, 1), (2, 1)), width)
    price = tuple(Decimal(draw.random.randint(9_000, 19_000)) / 10_000 for _ in range(width))
    rows.append(Row("Net asset value per unit", price, measure="per_one"))
    return Content("fund", heads, rows, periods=True)


def dividends(draw: Draw) -> Content:
    """Lines called by an amount per share, which add in money."""
    width = 2
    heads = [Head((period,)) for period in draw.periods(width)]
    labels = ("Final dividend of 12.5p per share", "Interim dividend of 4.0p per share", "Special dividend")
    rows = [Row(each, draw.row(width)) for each in labels]
    total(rows, "Total dividends", ((0, 1), (1, 1), (2, 1)), width)
    return Content("dividends", heads, rows, periods=True)


def key_figures(draw: Draw) -> Content:
    """Money with what is given for one share, how many people there are, and a margin, in any language."""
    say, width = draw.words, draw.random.choice((2, 2, 3))
    heads = [Head((period,)) for period in draw.periods(width)]
    rows = [Row(say["revenue"], draw.row(width, 3)), Row(say["other_income"], draw.row(width, 0.3))]
    total(rows, say["income_total"], ((0, 1), (1, 1)), width)
    whole = draw.random.randint
    for key, measure in (("eps", "per_one"), ("headcount", "count"), ("margin", "percent")):
        amounts = {
            "eps": [Decimal(whole(110, 980)) / 100 for _ in range(width)],
            "headcount": [Decimal(whole(1_100, 9_800)) for _ in range(width)],
            "margin": [Decimal(whole(51, 389)) / 10 for _ in range(width)],
        }[key]
        rows.append(Row(say[key], tuple(amounts), measure=measure))  # type: ignore[arg-type]
    return Content("key figures", heads, rows, periods=True)


def sections(draw: Draw) -> Content:
    """An income statement under headings, its lines set in, with what is in a line said below it."""
    width = 2
    heads = [Head((period,)) for period in draw.periods(width)]
    rows = [Row("Income", kind="heading")]
    rows += [Row("Fares", draw.row(width), level=1), Row("Freight", draw.row(width, 0.5), level=1)]
    part = tuple((amount or Decimal(0)) // 3 for amount in rows[2].amounts)
    rows.append(Row("of which on night boats", part, level=2))
    income_total = total(rows, "Total income", ((1, 1), (2, 1)), width)
    rows.append(Row("Costs", kind="heading"))
    rows += [Row("Wages", draw.row(width, 0.4), level=1), Row("Fuel", draw.row(width, 0.3), level=1)]
    spent = total(rows, "Total costs", ((6, 1), (7, 1)), width)
    total(rows, "Surplus", ((income_total, 1), (spent, -1)), width)
    return Content("sections", heads, rows, periods=True)


def spread(draw: Draw) -> Content:
    """Two levels of headings: years over the group and the company."""
    years = draw.periods(2)
    heads = [Head((year, part)) for year in years for part in ("Group", "Company")]
    width = 4
    rows = [Row(each, draw.row(width)) for each in ("Property", "Receivables", "Cash")]
    total(rows, "Total assets", ((0, 1), (1, 1), (2, 1)), width)
    return Content("spread", heads, rows)


def years_down(draw: Draw) -> Content:
    """Years as rows, and what happened in them as columns."""
    names = ("Fares", "Freight", "Kiosks")
    heads = [Head((name,)) for name in names]
    heads.append(Head(("Total income",), parts=((0, 1), (1, 1), (2, 1))))
    first = draw.random.choice((2018, 2019, 2020))
    rows = across([Row(str(first + n), draw.row(4)) for n in range(5)], heads)
    return Content("years down", heads, rows)


def changes(draw: Draw) -> Content:
    """Two years, the change between them and the same in percent."""
    now, before = draw.periods(2)
    heads = [
        Head((now,)),
        Head((before,)),
        Head(("Change",), parts=((0, 1), (1, -1))),
        Head(("Change %",), "percent"),
    ]
    rows = [Row(each, (*draw.row(2), None, None)) for each in ("Fares", "Freight", "Kiosks", "Parking")]
    rows = across(rows, heads)
    rows.append(
        Row(
            "Total income",
            (*(sum((row.amounts[n] or Decimal(0) for row in rows), Decimal(0)) for n in range(3)), None),
            "total",
            parts=tuple((n, 1) for n in range(4)),
        )
    )
    made = []
    for row in rows:
        points = round((row.amounts[2] or Decimal(0)) * 100 / (row.amounts[1] or Decimal(1)), 1)
        made.append(replace(row, amounts=(*row.amounts[:3], points)))
    return Content("changes", heads, made, periods=False)


SCENARIOS: tuple[Scenario, ...] = (
    *(income, income, income, balance, balance, bank, insurer, charity, variance, trial_balance, balances),
    *(roll_forward, equity, segments, ageing, maturities, sales_tax, tax_reconciliation, quarters),
    *(indicators, indicators, fund, dividends, key_figures, key_figures, key_figures, sections, sections),
    *(spread, years_down, changes),
)
OF_LANGUAGES = (income, balance, quarters, key_figures)
