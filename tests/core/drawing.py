"""Clauses drawn at random: every clause there is, in values that a rule can hold together."""

from __future__ import annotations

from decimal import Decimal
from typing import Any

from hypothesis import strategies as st

from humble_sum.core.locales import OFFERED
from humble_sum.core.printing.clauses import TYPES
from humble_sum.core.printing.resolved_clauses import NAMES, ResolvedClauses
from tests.making import resolved

words = st.sampled_from(["nil", "n/a", "ohne Angabe", "नहीं"])
bands = st.lists(
    st.fixed_dictionaries(
        {
            "when": st.sampled_from([{"below": "0"}, {"above": "0"}, {"from": "-1", "to": "1"}]),
            "mark": st.sampled_from(["▲", "▼", "✓"]),
            "tone": st.sampled_from(["plain", "rust"]),
        }
    ),
    max_size=2,
)
# Clauses whose type does not list what may be said of them.
SPECIAL: dict[str, st.SearchStrategy[Any]] = {
    "currency": st.sampled_from([None, "INR", "EUR", "JPY", "KWD", "CHF"]),
    "decimals": st.one_of(
        st.just("currency"),
        st.integers(0, 8).map(lambda n: {"fixed": n}),
        st.integers(0, 6).map(lambda n: {"up_to": n}),
        st.integers(1, 6).map(lambda n: {"significant": n}),
    ),
    "step": st.sampled_from([None, "0.05", "0.5", "5", "50"]),
    "locale": st.sampled_from([*OFFERED, "es-ES", "pl-PL", "ar-EG", "de-CH"]),
    "zero": st.one_of(st.sampled_from(["figure", "dash", "blank"]), words.map(lambda w: {"word": w})),
    "missing": st.one_of(st.sampled_from(["blank", "dash"]), words.map(lambda w: {"word": w})),
    "before": st.sampled_from(["", "net"]),
    "after": st.sampled_from(["", "net"]),
    "bands": bands,
    "words": st.sampled_from([None, {"one": "litre", "many": "litres"}, {"yes": "on", "no": "off"}]),
    "shown": st.sampled_from([True, True, True, False]),
    "width": st.sampled_from([None, {"most": 6, "gives_way": "decimals"}, {"most": 9, "gives_way": "scale"}]),
}
VALUES = {name: SPECIAL.get(name, st.from_type(TYPES[name])) for name in NAMES}
anything = st.one_of(
    st.none(),
    st.just(Decimal(0)),
    st.decimals(
        allow_nan=False, allow_infinity=False, min_value=Decimal("-1e14"), max_value=Decimal("1e14"), places=6
    ),
    st.integers(-(10**9), 10**9).map(Decimal),
)


@st.composite
def any_rule(draw: st.DrawFn) -> ResolvedClauses:
    """Some clauses named at random, the others at their defaults: what a cascade can come to."""
    named = draw(st.sets(st.sampled_from(NAMES), max_size=8))
    return resolved({name: draw(VALUES[name]) for name in sorted(named)})
