"""What columns are called: notes, units, codes, shares, counts, prices of one and periods."""

from __future__ import annotations

import re

NOTES = re.compile(
    r"(notes?|notes? no\.?|notes? ref(erence|\.)?|anhang|anm\.?|anmerkung(en)?|schedules?|sch\.?( no\.?)?|"
    r"notas?|noot|noter?|toelichting|liite|dipnot(lar)?|catatan|thuyết minh|прим(ечани[ея]|\.)?|"
    r"пояснени[ея]|附注|附註|注释|注記|주석|หมายเหตุ|σημ(είωση|\.)|ملاحظات|إيضاح(ات)?)",
    re.IGNORECASE,
)
UNITS = re.compile(r"(units?|uom|unit of measure|einheit)", re.IGNORECASE)
CURRENCIES = re.compile(
    r"((local|transaction|document|functional|reporting|original) )?(currency|curr?\.?|ccy)( ?code)?|"
    r"währung|devise|monnaie|moneda|divisa|moeda|valuta|waluta|měna|pénznem|валюта|货币|貨幣|币种|幣別|通貨|통화|"
    r"para birimi|mata uang",
    re.IGNORECASE,
)
PERCENT = re.compile(r"%|\bper ?cent\b|\bpercentage\b|\bpct\b", re.IGNORECASE)
SHARE = re.compile(r"%|\b(bps?|pp|pts)\b|‰", re.IGNORECASE)
PER_EACH = re.compile(
    r"\bper (unit|share|head|passenger|tonne?|lit(re|er)|kg|km|mile|hour|night|item|piece|vehicle|crossing|"
    r"ticket)\b|"
    r"\b(unit price|price each|EPS|DPS)\b|\bje (Aktie|Stück)\b",
    re.IGNORECASE,
)
# Headings that no amounts of money stand under, where nothing else is said.
NO_MONEY = re.compile(
    r"(rate|price|(list|sale|purchase|strike|issue|offer|market) price|(unit|hourly|daily|day) (cost|rate)|"
    r"unit price|(cost|price|fare|rate|fee)s? ?/ ?\w+|tariff|coupon|yield( to maturity)?|YTM|LTV|"
    r"loan[ -]to[ -]value|weight(ing)?|multiple|factor|score|rating|rank(ing)?|ratio|index|beta|"
    r"(spread|margin|coupon),? bps?|"
    r"(remaining |original |average |loan |lease )?(term|tenor|maturity|duration|age)|"
    r"(useful|economic|remaining|average) (economic )?li(fe|ves))( ?[(\[][^)\]]*[)\]])?|"
    r".*[(\[,] ?(in )?(bps?|basis points)[)\]]?",
    re.IGNORECASE,
)
COUNTED = re.compile(
    r"^(qty\.?|quantity|headcount|employees|units sold|anzahl|menge)\b|^(number|no\.?|nos\.?) of\b|"
    r"\((number|nos?\.?|count|units)\)$",
    re.IGNORECASE,
)
PERIOD = re.compile(
    r"\b(19|20)\d\d\b|\b(vorjahr|prior|previous|last) ?(year|period)?\b|\bFY ?\d\d\b", re.IGNORECASE
)
# Amounts of the same things as planned, or as they came out.
VERSION = re.compile(
    r"\b(budget(ed|é)?|plan(ned)?|forecast|outlook|target|estimates?d?|actuals?|outturn|revised|original|"
    r"ist|soll|hochrechnung|r[ée]el|réalisé|prévu|prévisions?|presupuesto|previsto|orçad[oa]|realizado|"
    r"preventivo|consuntivo|begroting|realisatie)\b|予算|実績|예산|실적|预算|实际",
    re.IGNORECASE,
)
# A whole year, of something: not its half, quarter or month.
YEAR_ALONE = re.compile(
    r"(?!.*\b([HQM]\d|\d{1,2} ?[HQM]|half|quarter|month)\b)(.*\W)?(FY ?)?(19|20)\d\d([-/\u2013]\d\d(\d\d)?)?",
    re.IGNORECASE,
)
DOTTED_DATE = re.compile(r"\b\d{1,2}\.\d{1,2}\.(19|20)?\d\d\b")
LEDGER = re.compile(r"\b(dr|cr)\.?\s*$", re.IGNORECASE)
CODE_HEADINGS = {"line", "account"}
# Headings of what is surely no label where another column has words.
CODES = re.compile(
    r"(line|account|a/c|ledger|gl|nominal|item|serial|srl?|sl|s)\.? ?(code|id|no\.?|nr\.?|number)|codes?|id|"
    r"no\.?|"
    r"ref(erence|\.)?|konto-?(nr\.?|nummer)?|#|№( ?п/п)?|n[º°]|lp\.?|nr\.? ?rd\.?|poz\.?|pos\.?|"
    r"код( строки| показателя| рядка| на реда)?|сч[её]т|kód|kode?|c[óo]d(igo|ice|\.)?|compte|cuenta|"
    r"conto|rekening|mã số|(科目)?([编編代][码碼]|コード)|行[次番]|行番号|序[号號]|(계정)?코드|รหัส(บัญชี)?",
    re.IGNORECASE,
)
