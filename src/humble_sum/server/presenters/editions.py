"""Editions, and editions beside each other, from core's answers to the API's views."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from decimal import Decimal
from itertools import islice
from typing import Literal

from pydantic import BaseModel, Field

from humble_sum.core.changes.edition_commands import EditEdition, RemoveEdition, SetRate, TranslateAt
from humble_sum.core.changes.offers import FigureOffers, RuleOffers
from humble_sum.core.places.agreement import Standing
from humble_sum.core.places.editions_beside import differences, differing, in_editions, notes_on, rate_breaks
from humble_sum.core.places.placed_figure import Placer
from humble_sum.core.places.places_report import Found
from humble_sum.core.printing.figure import exact_text
from humble_sum.core.printing.resolved_clauses import NAMES, ResolvedClauses
from humble_sum.core.printing.scaling import NO_BREAK
from humble_sum.core.proof.figures import Figure
from humble_sum.core.proof.findings import describe_figure
from humble_sum.core.proof.pack_proof import PackProof
from humble_sum.core.rules.rulebook import Decided, Place, Rule
from humble_sum.core.rules.sentence import more_words, rule_sentence, sentence
from humble_sum.core.statements.edition import OWN, Edition, Rate
from humble_sum.core.statements.in_edition import base_of, untranslated
from humble_sum.core.statements.names import FigureRef
from humble_sum.core.statements.pack import Pack
from humble_sum.exchange.layout import rows
from humble_sum.server.figure_schemas import OfferView, SentenceView, WordView
from humble_sum.server.presenters.place_models import FindingView
from humble_sum.server.presenters.places_page import finding_view
from humble_sum.server.presenters.word_page import sentence_view, word_view

MOST_BESIDE = 400  # lines of a page that editions stand beside each other on


class RateView(BaseModel):
    """What a column is translated at; a rate without digits is missing."""

    statements: list[str] = Field(description="The statements it is for.")
    column: str
    label: str
    costs: str = Field(description="What a rate is the price of, and in which currency.")
    rate: str
    source: str
    date: str
    change: SetRate = Field(description="Sets it, once its rate and source are what they are to be.")


class EditionRuleView(BaseModel):
    """A rule that is for this edition alone."""

    rule: str
    name: str
    sentence: SentenceView


class EditionView(BaseModel):
    """An edition: what it is, whether it foots, and what is said only in it."""

    id: str
    address: str = Field(description="The pack in this edition, for any address that takes a pack.")
    name: str
    caption: str
    gaps: int
    breaks: int
    nudges: int
    currency: str | None
    any_language: bool
    rates: list[RateView]
    rules: list[EditionRuleView]
    notes: list[str]
    ways: list[OfferView] = Field(description="What would settle ties that only the rates break.")
    edit: EditEdition = Field(description="Changes it, once its fields are what they are to be.")
    remove: RemoveEdition | None


class BesideHead(BaseModel):
    """One edition over its columns."""

    edition: str
    name: str
    caption: str
    columns: list[str]
    gaps: int


class BesideFigure(BaseModel):
    column: str
    text: str
    hang: str
    nudged: Literal["up", "down"] | None
    gap: str
    differs: bool


class BesideLine(BaseModel):
    id: str
    label: str
    kind: str
    indent: int
    last: bool
    figures: list[list[BesideFigure]]


class BesideView(BaseModel):
    """A statement in two editions beside each other, with what differs other than scale."""

    revision: int
    statement: str
    title: str
    period: str
    heads: list[BesideHead]
    lines: list[BesideLine]
    differences: list[str]


class InEditionView(BaseModel):
    """A figure as one edition prints it."""

    edition: str
    address: str
    name: str
    text: str
    nudged: bool
    standing: Standing
    says: str


class EverywhereView(BaseModel):
    """One figure wherever it is printed: the editions' pages and the places; and what decides how one sort of
    place prints it, as a sentence."""

    name: str
    exact: str
    editions: list[InEditionView]
    placed: list[FindingView]
    sentence: SentenceView
    more: list[WordView]


def address_of(pack: str, edition: str) -> str:
    return pack if edition == OWN else f"{pack}@{edition}"


def edition_view(pack_id: str, pack_proof: PackProof) -> EditionView:
    """The edition that a pack is proved in."""
    pack = pack_proof.pack
    id = pack.shown
    edition = pack.edition(id)
    captions = [proof.caption for proof in pack_proof.proofs.values()]
    return EditionView(
        id=id,
        address=address_of(pack_id, id),
        name=pack.edition_name(id),
        caption=max(captions, key=captions.count),
        gaps=sum(pack_proof.count(each, "gap") for each in pack_proof.proofs),
        breaks=sum(pack_proof.count(each, "break") for each in pack_proof.proofs),
        nudges=sum(proof.figures.nudged for proof in pack_proof.proofs.values()),
        currency=edition.currency if edition else pack.currency,
        any_language=bool(edition and edition.any_language),
        rates=_rates(pack_proof.pack, edition) if edition else [],
        rules=[_rule(pack, rule) for rule in pack.rulebook.rules if rule.reach.editions == (id,)],
        notes=notes_on(pack_proof),
        ways=_ways(pack_proof),
        edit=_edit(id, edition),
        remove=RemoveEdition(kind="remove_edition", edition=id) if edition else None,
    )


def _ways(pack_proof: PackProof) -> list[OfferView]:
    """For each tie that only the rates break: its figure that opens a year at the rate of the other."""
    pack = pack_proof.pack
    found = []
    for check in rate_breaks(pack_proof):
        for figure in check.tie.figures:
            statement = pack.statement(figure[0])
            part = statement and any(figure[1] in dict(line.parts) for line in statement.lines)
            other = next(each for each in check.tie.figures if each != figure)
            if statement is None or not part or other[2] == figure[2]:
                continue
            line, head = statement.line(figure[1]), statement.column(other[2])
            assert line is not None
            rate = head.label if head else other[2]
            label = f"{line.label} at the rate of {rate}, with a line for the difference"
            change = TranslateAt(kind="translate_at", edition=pack.shown, figure=figure, column=other[2])
            found.append(OfferView.model_construct(label=label, change=change))
    return found


def _edit(id: str, edition: Edition | None) -> EditEdition:
    """The command that leaves an edition as it is, for what is to be otherwise to be put into it."""
    if edition is None:
        return EditEdition.model_construct(kind="edit_edition", edition=id)
    return EditEdition(
        kind="edit_edition",
        edition=id,
        name=edition.name,
        currency=edition.currency,
        rates=edition.rates,
        any_language=edition.any_language,
    )


def _rates(pack: Pack, edition: Edition) -> list[RateView]:
    """Every rate of an edition, and an empty one for each column that has none."""
    views = [_rate(pack, edition, rate, format(rate.rate, "f")) for rate in edition.rates]
    missing = dict.fromkeys(column for _, column in untranslated(base_of(pack), edition))
    return views + [_rate(pack, edition, Rate(column=column, rate=Decimal(1)), "") for column in missing]


def _rate(pack: Pack, edition: Edition, rate: Rate, digits: str) -> RateView:
    statements = [s for s in pack.statements if rate.statement in (None, s.id)]
    label = next((c.label for s in statements if (c := s.column(rate.column))), rate.column)
    row = next((r for s in statements if rate.line and (r := s.line(rate.line))), None)
    one, in_one = edition.currency or "", base_of(pack).currency or "the pack’s own"
    if rate.quoted == "edition_for_one":
        one, in_one = in_one, one
    where = {"statement": rate.statement, "line": rate.line, "column": rate.column}
    return RateView(
        statements=[s.id for s in statements if s.column(rate.column)],
        column=rate.column,
        label=f"{row.label}, {label}" if row else label,
        costs=f"{one} 1 costs, {in_one}".rstrip(", "),
        rate=digits,
        source=rate.source,
        date=rate.date or "",
        change=SetRate(kind="set_rate", edition=edition.id, **where),
    )


def _rule(pack: Pack, rule: Rule) -> EditionRuleView:
    named = rule.clauses.named()
    decided = Decided(ResolvedClauses.of(named), {name: rule if name in named else None for name in NAMES})
    offers = RuleOffers(pack.statements[0].id, rule)
    said = sentence_view(rule_sentence(decided, offers, frozenset(named)))
    return EditionRuleView(rule=rule.id, name=rule.name, sentence=said)


def beside_view(one: PackProof, other: PackProof, statement: str, revision: int) -> BesideView:
    """A statement in two editions."""
    proofs = (one.proofs[statement], other.proofs[statement])
    differ = differing(*proofs)
    gaps = [{check.relation.total: check.gap for check in proof.gaps if check.gap} for proof in proofs]
    # Differences and shares say nothing that their columns do not, and there is little room.
    columns = proofs[0].statement.columns
    shown = [n for n, column in enumerate(columns) if not (column.difference or column.share)]
    shown = shown or list(range(len(columns)))
    lines = []
    for first, second in zip(islice(rows(proofs[0]), MOST_BESIDE), rows(proofs[1]), strict=False):
        pair = (first.figures, second.figures)
        lines.append(
            BesideLine(
                id=first.line.id,
                label=first.line.label,
                kind=first.line.kind,
                indent=first.line.steps,
                last=first.last,
                figures=[
                    [
                        _beside(figure, gaps[at].get(figure.cell, 0), figure.cell in differ)
                        for figure in figures
                    ]
                    for at, figures in enumerate([[figures[n] for n in shown] for figures in pair])
                ]
                if first.figures
                else [],
            )
        )
    return BesideView(
        revision=revision,
        statement=statement,
        title=proofs[0].statement.title,
        period=one.pack.period,
        heads=[
            BesideHead(
                edition=pack_proof.pack.shown,
                name=pack_proof.pack.edition_name(pack_proof.pack.shown),
                caption=proof.caption,
                columns=[proof.heads[n] for n in shown],
                gaps=pack_proof.count(statement, "gap"),
            )
            for pack_proof, proof in zip((one, other), proofs, strict=True)
        ],
        lines=lines,
        differences=differences(one, other, statement),
    )


def _beside(figure: Figure, gap: int, differs: bool) -> BesideFigure:
    printed = figure.printed
    nudged: Literal["up", "down"] | None = None
    if figure.moved and printed.units is not None and printed.own_rounding is not None:
        nudged = "up" if printed.units > printed.own_rounding else "down"
    mark = "" if not gap else f"+{gap}" if gap > 0 else f"−{-gap}"
    return BesideFigure(
        column=figure.cell[1],
        text=NO_BREAK.join(part for part in (printed.before, printed.text, printed.after) if part),
        hang="" if printed.after else printed.hang,
        nudged=nudged,
        gap=mark,
        differs=differs,
    )


def everywhere_view(
    pack_id: str,
    proofs: Mapping[str, PackProof],
    ref: FigureRef,
    found: Sequence[Found],
    place: Place,
    edition: str,
) -> EverywhereView:
    """A figure wherever it is printed; `proofs` has every edition by its id, `found` all that is placed."""
    pack_proof = proofs[edition]
    own = proofs[OWN].proofs[ref[0]].figures[ref[1], ref[2]]
    decided = Placer(pack_proof, place).decided(ref)
    offers = FigureOffers(*ref, place=place)
    return EverywhereView(
        name=describe_figure(pack_proof.pack, ref),
        exact=exact_text(own.exact, own.clauses),
        editions=[
            InEditionView(
                edition=each.edition,
                address=address_of(pack_id, each.edition),
                name=each.name,
                text=each.figure.printed.full_text,
                nudged=each.figure.moved,
                standing=each.agrees.standing,
                says=each.agrees.says,
            )
            for each in in_editions(proofs, ref)
        ],
        placed=[finding_view(each) for each in found if _prints(each, ref)],
        sentence=sentence_view(sentence(decided, offers)),
        more=[word_view(word) for word in more_words(decided, offers)],
    )


def _prints(found: Found, ref: FigureRef) -> bool:
    """Whether what is placed is the figure itself, and no measure of it and no word chosen by it."""
    if found.figure != ref:
        return False
    word = found.piece is not None and found.piece.mark is not None and found.piece.mark.sort == "word"
    return not word and (found.placed is None or found.placed.shows.measure == "figure")
