"""From core's answers to the API's views."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from dataclasses import asdict, replace
from decimal import Decimal
from functools import lru_cache
from itertools import islice
from typing import Literal

from humble_sum.core.amounts import amount_text, scaled
from humble_sum.core.changes.footing_commands import ClearNudges
from humble_sum.core.changes.offers import FigureOffers, gap_offer, hold_offer, reason_offer, steps
from humble_sum.core.changes.relation_commands import TieFigure, UntieFigure
from humble_sum.core.changes.structure_commands import SetColumn
from humble_sum.core.changes.structure_sentence import column_sentence
from humble_sum.core.changes.tagging_commands import PERIOD_TYPES, SetConcept, SetPeriodType, SetTaxonomies
from humble_sum.core.footing.gap_fixes import ways
from humble_sum.core.footing.nudge_record import nudge_records
from humble_sum.core.locales.number_words import in_words
from humble_sum.core.once import ByIdentity
from humble_sum.core.printing.figure import exact_text
from humble_sum.core.printing.resolved_clauses import ResolvedClauses
from humble_sum.core.printing.specimens import specimens
from humble_sum.core.proof.checks import Check
from humble_sum.core.proof.figures import Figure
from humble_sum.core.proof.findings import (
    describe_check,
    describe_figure,
    describe_relation,
    describe_tie,
    describe_tie_check,
    signed_mark,
)
from humble_sum.core.proof.overflow import remedies
from humble_sum.core.proof.pack_proof import PackProof, TieCheck, figure_at
from humble_sum.core.proof.statement_proof import Proof
from humble_sum.core.proof.trace import drift_text, trace
from humble_sum.core.rules.provenance import decisions
from humble_sum.core.rules.rulebook import Decided
from humble_sum.core.rules.sentence import more_words, sentence
from humble_sum.core.statements.in_edition import rates_differ
from humble_sum.core.statements.names import FigureRef
from humble_sum.core.statements.pack import Line, Pack
from humble_sum.exchange.layout import Row, rows
from humble_sum.server.figure_schemas import (
    ClauseOrigin,
    DecidedView,
    DecisionView,
    FigureView,
    GapView,
    KeySteps,
    ReachView,
    ReadyTiming,
    RemedyView,
    SpecimenView,
    StepView,
    TaggingView,
    TiedView,
    WayView,
)
from humble_sum.server.presenters.contents_page import contents_view
from humble_sum.server.presenters.structure_page import structure_view
from humble_sum.server.presenters.word_page import sentence_view, word_view
from humble_sum.server.schemas import (
    CheckView,
    ColumnView,
    FigureCell,
    FootingView,
    LineView,
    NudgeView,
    ProofView,
    RowsView,
)

MOST_SAID = 24  # digits of an amount that is said in words
LARGE = 1_500  # figures from which a page is sent row by row, as it is looked at
ROWS_AT_FIRST = (0, 80)


def proof_view(
    pack_proof: PackProof, proof: Proof, revision: int, wanted: tuple[int, int] | None = None
) -> ProofView:
    """The page. Of a large statement, only the rows wanted have their figures."""
    pack, statement = pack_proof.pack, proof.statement
    large = len(proof.figures) > LARGE
    first, last = (wanted or ROWS_AT_FIRST) if large else (0, len(statement.lines))
    ties = pack_proof.ties_at(statement.id)
    feet = Counter(_group(check) for check in proof.checks if check.status == "foots")
    feet["tie"] = sum(tie.status == "foots" for tie in ties)
    return ProofView(
        revision=revision,
        statement=statement.id,
        name=statement.name,
        title=statement.title,
        entity=pack.entity,
        period=pack.period,
        caption=proof.caption,
        exceptions=list(proof.exceptions),
        columns=[
            ColumnView(id=c.id, label=c.label, heading=head, derived=c.derived)
            for c, head in zip(statement.columns, proof.heads, strict=True)
        ],
        lines=[_line(row, first <= n < last) for n, row in enumerate(rows(proof))],
        checks=[
            *(_check(proof, c, large) for c in proof.checks if not large or c.status != "foots"),
            *(_tie(pack_proof, statement.id, tie) for tie in ties),
        ],
        feet=dict(feet),
        large=large,
        gaps=pack_proof.count(statement.id, "gap"),
        nudges=proof.figures.nudged,
    )


def rows_view(proof: Proof, revision: int, first: int, last: int) -> RowsView:
    """Some rows of the page, with their figures."""
    wanted = islice(rows(proof), first, last)
    return RowsView(revision=revision, first=first, lines=[_line(row, True) for row in wanted])


def _group(check: Check) -> str:
    return check.relation.total[1] if check.relation.way == "down" else "across"


def _line(row: Row, sent: bool) -> LineView:
    bare = _without_figures(ByIdentity(row.line), row.last)
    return replace(bare, figures=[_cell(figure) for figure in row.figures]) if sent else bare


# A change of how figures print leaves every line as it is.
@lru_cache(maxsize=16_384)
def _without_figures(same: ByIdentity[Line], last: bool) -> LineView:
    line = same.one
    return LineView(
        id=line.id,
        label=line.label,
        kind=line.kind,
        indent=line.steps,
        absent=line.absent,
        last=last,
        parts=[id for id, _ in line.parts],
        figured=line.kind != "heading",
        figures=[],
    )


def _cell(figure: Figure) -> FigureCell:
    printed, drift = figure.printed, figure.drift
    narrowest = figure.decided.narrowest
    nudged: Literal["up", "down"] | None = None
    if figure.moved and printed.units is not None and printed.own_rounding is not None:
        nudged = "up" if printed.units > printed.own_rounding else "down"
    return FigureCell(
        column=figure.cell[1],
        text=printed.unmarked,
        hang="" if printed.after else printed.hang,
        mark=printed.mark,
        tone=printed.tone,
        too_wide=printed.too_wide,
        origin=narrowest.reach.level if narrowest else "default",
        origin_rule=narrowest.name if narrowest else "Default",
        exact=exact_text(figure.exact, figure.clauses) or printed.text,
        sort=printed.kind,
        drift=None if drift is None else drift_text(drift),
        drift_share=0 if drift is None else max(-1000, min(1000, int(scaled(drift, 3)))),
        held=figure.held is not None,
        nudged=nudged,
    )


def _check(proof: Proof, check: Check, large: bool) -> CheckView:
    relation = check.relation
    return CheckView(
        id=relation.id,
        way=relation.way,
        line=relation.total[0],
        column=relation.total[1],
        name=describe_relation(proof, relation),
        elsewhere=[],
        status=check.status,
        mark=signed_mark(check.gap) if check.status == "gap" else "",
        says="" if large else describe_check(proof, check),
    )


def _tie(pack_proof: PackProof, statement: str, check: TieCheck) -> CheckView:
    """A tie as a bead of one of its statements."""
    here = next(ref for ref in reversed(check.tie.figures) if ref[0] == statement)
    return CheckView(
        id=f"tie:{check.tie.id}",
        way="tie",
        line=here[1],
        column=here[2],
        name=describe_tie(pack_proof.pack, check.tie),
        elsewhere=[list(ref) for ref in check.tie.figures if ref != here],
        status=check.status,
        mark=_tie_mark(pack_proof.pack, check),
        says=describe_tie_check(pack_proof.pack, pack_proof.proofs, check),
    )


def _tie_mark(pack: Pack, check: TieCheck) -> str:
    if check.status == "break" and rates_differ(pack, check.tie.figures):
        return "by rates"
    return signed_mark(check.gap) if check.status == "gap" else ""


def _tagging(pack: Pack, statement: str, line: Line) -> TaggingView:
    concept, negated = line.concept, line.concept_negated
    taxonomies = pack.taxonomies
    return TaggingView(
        concept=concept,
        negated=negated,
        period_type=line.period_type,
        taxonomies=list(taxonomies),
        timing=_timing(pack, statement, line),
        change=SetConcept(
            kind="set_concept", statement=statement, line=line.id, concept=concept, negated=negated
        ),
        naming=SetTaxonomies(kind="set_taxonomies", taxonomies=taxonomies),
    )


def _timing(pack: Pack, statement: str, line: Line) -> list[ReadyTiming]:
    """The ways to say whether amounts are at a day or over a time: the line's, then its statement's."""
    of = pack.statement(statement)
    lines = [] if of is None else of.figured
    return [
        ReadyTiming(
            says=f"{whose}: {says}",
            chosen=all(each.period_type == type for each in among),
            change=SetPeriodType(kind="set_period_type", statement=statement, line=id, period_type=type),
        )
        for whose, id, among in (("This line", line.id, [line]), ("All of its statement", None, lines))
        for type, says in PERIOD_TYPES.items()
    ]


def figure_view(pack_proof: PackProof, proof: Proof, figure: Figure, revision: int) -> FigureView:
    """The margin of one figure."""
    pack = pack_proof.pack
    line = proof.statement.line(figure.cell[0])
    column = proof.statement.column(figure.cell[1])
    assert line is not None and column is not None
    ref = (proof.statement.id, *figure.cell)
    offers = FigureOffers(*ref)
    structure = structure_view(proof.statement, line, column)
    hold = hold_offer(figure, ref)
    tied = [other for tie in pack.ties if ref in tie.figures for other in tie.figures if other != ref]
    return FigureView(
        revision=revision,
        line=line.id,
        column=column.id,
        column_label=column.label,
        column_date=column.date,
        column_sentence=sentence_view(column_sentence(proof.grid, column, line)),
        column_heading=SetColumn(
            kind="set_column",
            statement=proof.statement.id,
            column=column.id,
            label=column.label,
            date=column.date,
        ),
        label=f"{line.label}, {column.label}",
        steps=[
            StepView(
                name=step.name,
                value=step.value,
                reason=step.reason,
                origins=[
                    ClauseOrigin(
                        clause=clause,
                        level=rule.reach.level if rule else "default",
                        rule=rule.name if rule else "Default",
                    )
                    for clause, rule in step.clauses
                ],
            )
            for step in trace(figure)
        ],
        sentence=sentence_view(sentence(figure.decided, offers)),
        more=[word_view(word) for word in more_words(figure.decided, offers)],
        decisions=decision_views(figure.decided),
        remedies=[
            RemedyView(says=r.says, text=r.text, change=offers.value(r.clause, r.value))
            for r in remedies(figure)
        ],
        reaches=[
            ReachView(apply="origin", label="where each word was set"),
            ReachView(apply="everywhere", label="everywhere"),
            ReachView(apply="statement", label=f"in {proof.statement.name}"),
            ReachView(
                apply="kind", label=f"on every {line.kind.replace('_', ' ')} in {proof.statement.name}"
            ),
            ReachView(apply="column", label=f"in column {column.label}"),
            ReachView(apply="line", label=f"on line {line.label}"),
            ReachView(apply="figure", label="on this figure"),
        ],
        specimens=specimen_views(figure.clauses, pack.specimens),
        gaps=_gaps(pack_proof, proof, figure),
        tied=[tied_view(pack_proof, other, figure) for other in tied],
        in_words=_in_words(figure),
        structure=structure,
        held=figure.held is not None,
        hold_reason=figure.held.reason if figure.held else "",
        hold=hold,
        hold_because=reason_offer(figure, ref),
        tagging=_tagging(pack, proof.statement.id, line),
        untie=UntieFigure(kind="untie", statement=ref[0], line=ref[1], column=ref[2]) if tied else None,
        keys=KeySteps(**steps(figure, offers), hold=hold, flip_sign=structure.flip),
        contents=contents_view(pack, proof.statement, line.id, figure.cell[1]),
    )


def tied_view(
    pack_proof: PackProof, ref: FigureRef, figure: Figure, tie: TieFigure | None = None
) -> TiedView:
    """A figure as another is tied to it, or could be by a command."""
    other = figure_at(pack_proof.proofs, ref)
    statement, line, column = ref
    return TiedView(
        statement=statement,
        line=line,
        column=column,
        name=describe_figure(pack_proof.pack, ref),
        printed=other.printed.full_text,
        same=other.exact == figure.exact,
        tie=tie,
    )


def decision_views(decided: Decided) -> list[DecisionView]:
    """Which rule decided which clauses of a figure."""
    return [
        DecisionView(
            rule=each.rule.id if each.rule else None,
            name=each.rule.name if each.rule else "Default",
            level=each.rule.reach.level if each.rule else "default",
            clauses=[DecidedView(clause=name, says=said) for name, said in each.clauses],
        )
        for each in decisions(decided)
    ]


def specimen_views(clauses: ResolvedClauses, own: Sequence[Decimal]) -> list[SpecimenView]:
    """The specimens under these clauses, the pack's own among them."""
    return [
        SpecimenView(
            sort=s.sort,
            amount=None if s.amount is None else amount_text(s.amount),
            exact=s.exact,
            text=s.text,
        )
        for s in specimens(clauses, own)
    ]


def _in_words(figure: Figure) -> str:
    """The exact amount in words; quotients without an end are not said."""
    if figure.exact is None or len(figure.exact.as_tuple().digits) > MOST_SAID:
        return ""
    indian = figure.clauses.locale.endswith("-IN") or figure.clauses.scale in ("lakhs", "crores")
    return in_words(figure.exact, "indian" if indian else "international")


def _gaps(pack_proof: PackProof, proof: Proof, figure: Figure) -> list[GapView]:
    """The gaps this figure is the total of, or else the first one it is a part of."""
    own = [check for check in proof.gaps if check.relation.total == figure.cell]
    part_of = [check for check in proof.gaps if figure.cell in (cell for cell, _ in check.relation.parts)]
    return [
        GapView(
            check=check.relation.id,
            name=describe_relation(proof, check.relation),
            says=describe_check(proof, check),
            ways=[
                WayView(
                    id=way.id,
                    says=way.says,
                    detail=way.detail,
                    gaps_after=way.gaps_after,
                    change=gap_offer(proof.statement.id, check.relation.id, way.id),
                )
                for way in ways(pack_proof, proof, check)
            ],
        )
        for check in own or part_of[:1]
    ]


def footing_view(proof: Proof, revision: int) -> FootingView:
    """Every nudge of the statement, in force or resting."""
    found, added = nudge_records(proof)
    held = [list(figure.cell) for figure in proof.figures.values() if figure.held]
    nudges = [NudgeView(**asdict(each)) for each in found]
    clear = ClearNudges(kind="clear_nudges", statement=proof.statement.id)
    return FootingView(revision=revision, nudges=nudges, added_drift=added, held=held, clear=clear)
