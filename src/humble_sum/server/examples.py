"""Examples for the OpenAPI file, made from the demo pack by the code that answers requests."""

from __future__ import annotations

import json
from functools import cache
from typing import Any

from pydantic import BaseModel

from humble_sum.core.changes.apply import apply
from humble_sum.core.changes.footing_commands import Foot
from humble_sum.core.changes.offers import RuleOffers
from humble_sum.core.changes.review_commands import PutPoint, Sign
from humble_sum.core.changes.roll_forward import roll_forward
from humble_sum.core.changes.rule_commands import LeaveStyle
from humble_sum.core.documents.proofreading import Reader
from humble_sum.core.footing.plan import Plan, plan
from humble_sum.core.intake.decisions import Decisions
from humble_sum.core.intake.draft import draft
from humble_sum.core.intake.draft_statement import statement_of
from humble_sum.core.intake.table_sentence import row_sentence
from humble_sum.core.issue.pack_standing import standing_of
from humble_sum.core.places.places_report import placed_on
from humble_sum.core.proof.pack_proof import prove_pack
from humble_sum.core.proof.statement_proof import prove
from humble_sum.core.statements.edition import OWN
from humble_sum.core.statements.in_edition import editions_of, in_edition
from humble_sum.core.statements.pack import Pack
from humble_sum.core.statements.review_marks import Subject
from humble_sum.exchange.containers.last_checks import checks_of
from humble_sum.exchange.containers.new_issue import Wanted, issue
from humble_sum.exchange.documents.reading import read_document
from humble_sum.exchange.pack_json import write_pack
from humble_sum.exchange.sources.text import read_text
from humble_sum.records.demo import demo_pack
from humble_sum.records.issue_rows import KeptIssue
from humble_sum.server.plan_cache import Plans
from humble_sum.server.presenters.comparison import ComparisonView, Gone, comparison_view
from humble_sum.server.presenters.document_page import document_name, document_view
from humble_sum.server.presenters.draft_page import IntakeView, draft_view, told_view
from humble_sum.server.presenters.editions import beside_view, edition_view, everywhere_view
from humble_sum.server.presenters.footing_page import footing_page
from humble_sum.server.presenters.places_page import dashboard_view, finding_view, item_words
from humble_sum.server.presenters.review_page import review_view
from humble_sum.server.presenters.statement_page import figure_view, footing_view, proof_view, rows_view
from humble_sum.server.routes import standalone as bare
from humble_sum.server.routes.commands import see_commands
from humble_sum.server.routes.formats import see_formats
from humble_sum.server.routes.group import GroupLine, GroupView
from humble_sum.server.routes.issues import issue_page, issued_view, since_view
from humble_sum.server.routes.review import DeletedIssueView, NowView
from humble_sum.server.schemas import (
    ChangeView,
    DashboardName,
    EditionName,
    Outcome,
    PackName,
    PackView,
    StatementView,
)

ID = "3f9a1c5e7b20"
EXAMPLE_SOURCE = b"Line,2025-26,2024-25\nFares,1250.40,1100.25\nFreight,310.15,298.75\nAll,1560.55,1399.00\n"
AT = "2026-05-04T09:30:00+00:00"
SHORTENED = 2  # rows of a list worth showing in an example


def _issues() -> dict[str, Any]:
    """What issuing answers, of the demo pack."""
    pack_proof = prove_pack(demo_pack())
    reasons = {check.id: "Known, and said in the note." for check in checks_of(pack_proof)}
    wanted = Wanted("Asha", "the auditors", files=("html",), reasons=reasons)
    told, _ = issue(pack_proof, 1, "2026-05-04T09:30:00+00:00", wanted)
    issued = issued_view(KeptIssue(told, "5e" * 32, None, None))
    page = issue_page(pack_proof, 3, 1)
    page = page.model_copy(update={"checks": [page.checks[0].model_copy(update={"open": [], "more": 0})]})
    at = "/api/packs/{pack}"
    return {
        "get /api/formats": see_formats().model_dump(mode="json"),
        "get /api/commands": [each.model_dump(mode="json") for each in see_commands()],
        f"get {at}/issue": page.model_dump(mode="json"),
        f"post {at}/issues": issued.model_dump(mode="json"),
        f"get {at}/issues/{{number}}": issued.model_dump(mode="json"),
        f"post {at}/issues/{{number}}/withdraw": issued.model_dump(mode="json"),
        f"get {at}/issues/{{number}}/differences": since_view(told, pack_proof, pack_proof).model_dump(
            mode="json"
        ),
    }


def _documents() -> dict[str, Any]:
    """A short document proofread against the demo pack."""
    pack_proof = prove_pack(demo_pack())
    text = b"Revenue from crossings came to \xe2\x82\xb933.83 crore."
    read = Reader(pack_proof).proofread(read_document("Annual report.txt", text))
    view = document_view(1, "2026-05-04 09:30", 3, read, pack_proof).model_dump(mode="json")
    name = document_name(1, "Annual report.txt", "2026-05-04 09:30", "Asha Rao", read, "")
    at, listed = "/api/packs/{pack}/documents", [name.model_dump(mode="json")]
    return {
        f"get {at}": listed,
        f"post {at}": view,
        f"get {at}/samples": ["Annual report.docx", "Board deck.pptx", "Circular 2025.pdf"],
        f"post {at}/samples/{{name}}": view,
        f"get {at}/{{document}}": view,
        f"delete {at}/{{document}}": listed,
    }


def _deleted() -> dict[str, Any]:
    """What is left of an issue whose pack was deleted."""
    said = DeletedIssueView.model_config["json_schema_extra"]
    assert isinstance(said, dict)
    now = NowView.model_config["json_schema_extra"]
    assert isinstance(now, dict) and isinstance(now["examples"], list)
    return {
        "get /api/issues/deleted": said["examples"],
        "get /api/packs/{pack}/now": now["examples"][0],
    }


def _group() -> dict[str, Any]:
    """The demo pack as the only one of a group."""
    pack = demo_pack()
    line = GroupLine(
        id=ID,
        entity=pack.entity,
        period=pack.period,
        revision=1,
        standing=standing_of(prove_pack(pack)),
        issue="1, draft",
        not_as_there=0,
        problem="",
    )
    source = {"entity": "Outer Isles Line", "period": "2025–26", "figure": ["income", "total", "y26"]}
    take = {
        "kind": "take_figure",
        "figure": ["income", "mail", "y26"],
        "sources": [source | {"amount": "13.5"}],
    }
    taken = {
        "figure": ["income", "mail", "y26"],
        "name": "Island mail contract, 2025–26 in Income",
        "printed_here": "120",
        "open": True,
        "sources": [
            {"name": "Outer Isles Line", "was": "12,048,649", "now": "12,150,000", "printed_there": "122"}
            | {"stands": "moved"}
        ],
        "take": take,
        "leave": {"kind": "leave_taken", "figure": ["income", "mail", "y26"]},
    }
    return {
        "get /api/group": _json(GroupView(edition=OWN, lines=[line], waiting=0, open=1)),
        "get /api/packs/{pack}/taken": [taken],
        "post /api/packs/{pack}/taken": take,
    }


SESSIONS = {
    "get /api/session": {"name": "Asha Rao", "role": "edit", "signed_in": True},
    "post /api/session": {"name": "Asha Rao", "role": "edit", "signed_in": True},
    "delete /api/session": {"name": "", "role": "read", "signed_in": False},
}


def add_examples(schema: dict[str, Any]) -> dict[str, Any]:
    """The OpenAPI file with an example in every answer and in the pack request."""
    made = _examples() | _issues() | SESSIONS | _deleted() | _documents() | _group()
    for path, operations in schema["paths"].items():
        for method, operation in operations.items():
            key = f"{method} {path}"
            if key in made:
                good = "201" if "201" in operation["responses"] else "200"
                operation["responses"][good]["content"]["application/json"]["example"] = made[key]
    body = schema["paths"]["/api/packs"]["post"]["requestBody"]["content"]["application/json"]
    body["example"] = json.loads(write_pack(demo_pack()))
    return schema


@cache
def _examples() -> dict[str, Any]:
    pack = demo_pack()
    statement = pack.statements[0]
    pack_proof = prove_pack(pack)
    proof = pack_proof.proofs[statement.id]
    found = plan(pack_proof, made="2026-05-04T09:30:00+00:00")
    assert isinstance(found, Plan)
    footed = pack.model_copy(update={"nudges": found.nudges})
    figure = proof.figures["costs", "y26"]
    gaps = pack_proof.count(statement.id, "gap")
    leave = LeaveStyle(kind="leave_style", statement=statement.id)
    named = {"name": "Ferries, statutory", "version": 2}
    styles = {
        "styles": [
            named
            | {"file": "ferries-statutory-2.json", "newest": True, "follow": None, "followers": []}
            | {"changes": ["House rule: scale crores, was lakhs"]}
        ],
        "following": named
        | {"kept": True, "own": [], "newest": None, "changes": [], "follow": None, "leave": _json(leave)},
        "faults": [],
    }
    view = PackView(
        id=ID,
        code=ID,
        edition=OWN,
        editions=[EditionName(id=id, name=pack.edition_name(id)) for id in editions_of(pack)],
        dashboards=[DashboardName(id=d.id, name=d.name, edition=d.edition) for d in pack.dashboards],
        entity=pack.entity,
        period=pack.period,
        revision=1,
        statements=[
            StatementView(
                id=statement.id,
                name=statement.name,
                title=statement.title,
                gaps=gaps,
                breaks=0,
                points=0,
                signed=[],
            )
        ],
        in_review=False,
        undo=None,
        redo=None,
        last_change=None,
        changes_today=0,
        foot=Foot(kind="foot", statement=statement.id),
    )
    page = proof_view(pack_proof, proof, 1)
    outcome = Outcome(changed=True, says="Footed Income", pack=view, proof=page)
    change = ChangeView(
        number=1,
        at="2026-05-04T09:30:00+00:00",
        when="2026-05-04 09:30",
        kind="foot",
        summary="Footed Income",
        author="A. Petrel",
        state="applied",
        steps=[],
    )
    table = read_text("income.csv", EXAMPLE_SOURCE)
    intake = IntakeView(
        id=ID,
        drafts=[draft_view(draft(table))],
        decisions=Decisions(),
    )
    one = "/api/packs/{pack}"
    of = f"{one}/statements/{{statement}}"
    board = prove_pack(in_edition(pack, "Board"), pack_proof)
    dashboard = pack.dashboards[0]
    placed = [f for f in placed_on(dashboard, board) if f.agrees.standing != "agrees"]
    proofs = {OWN: pack_proof, "Board": board}
    net = ("income", "net", "y26")
    on = Subject(statement="income", line="fuel")
    put = PutPoint(kind="put_point", on=on, words="Is bunkering in here?")
    signed = Sign(kind="sign", role="prepared", statements=("income",))
    asked = prove_pack(apply(pack_proof, put, "Rita Shah", made=AT).pack)
    review = review_view(prove_pack(apply(asked, signed, "Asha Rao", made=AT).pack), 3, "Asha Rao")
    return {
        f"get {one}/review": _json(review),
        f"get {one}/editions": [_json(edition_view(ID, each)) for each in proofs.values()],
        f"get {of}/beside/{{edition}}": _json(beside_view(pack_proof, board, statement.id, 1)),
        f"get {of}/figures/{{line}}/{{column}}/everywhere": _json(
            everywhere_view(ID, proofs, net, placed, "tile", "Board")
        ),
        f"get {one}/dashboards/{{dashboard}}": _json(dashboard_view(dashboard, board, 1)),
        f"get {one}/dashboards/{{dashboard}}/items/{{item}}/words": [
            _json(each) if isinstance(each, BaseModel) else each
            for each in item_words(dashboard, dashboard.items[0], pack)[:SHORTENED]
        ],
        f"get {one}/dashboards/{{dashboard}}/items/{{item}}/marks": [
            {"name": "Surplus for the year, 2025–26 in Income", "source": "{income:net:y26 | ₹4.1 crore}"}
            | {"text": "₹4.1 crore"}
        ],
        f"get {one}/agreement": [_json(finding_view(each)) for each in placed],
        "get /api/packs": [_json(PackName(id=ID, entity=pack.entity, period=pack.period))],
        "post /api/packs": _json(view),
        f"get {one}": _json(view),
        f"post {one}/copies": _json(view),
        f"delete {one}": _json(PackName(id=ID, entity=pack.entity, period=pack.period)),
        f"put {one}/standing": _json(PackName(id=ID, entity=pack.entity, period=pack.period)),
        f"post {one}/changes": _json(outcome),
        f"post {one}/undo": _json(outcome),
        f"post {one}/redo": _json(outcome),
        f"get {one}/history": [_json(change)],
        f"get {one}/figures": [
            {"statement": "income", "line": "costs", "column": "y26", "printed": "(2,770)"}
            | {"name": "Total costs, 2025–26 in Income"}
        ],
        f"get {one}/rulebook": {
            "revision": 1,
            "rules": [],
            "styles": [],
            "alike": [],
            "kinds": ["line"],
            "most": 0,
        },
        "get /api/house-styles": styles,
        "post /api/house-styles": styles,
        f"get {one}/locales": [
            {"tag": "mr-IN", "says": "Marathi, India", "amount": "(२,७७०)"}
            | {"percent": "१२.३%", "date": "३१ मार्च, २०२६"}
            | {"change": _json(RuleOffers("income", pack.rulebook.rules[0]).value("locale", "mr-IN"))}
        ],
        f"post {one}/trial": {"id": "5f0c1a9be2d37c48", "revision": 1, "says": "House rule: scale crores"}
        | {"new_gaps": 3, "closed_gaps": 9, "gaps": 9, "by_statement": {"income": 9}, "proof": _json(page)},
        f"get {one}/trials/{{trial}}": {
            "figures": 62,
            "matters": [],
            "rest": [{"says": "House rule", "figures": 62, "changed": []}],
        },
        f"post {one}/footing": _json(footing_page(pack_proof, pack_proof, 1, Plans())),
        f"post {one}/footing/searches/{{search}}/end": {"search": "b1946ac9-2d3c"},
        f"post {one}/footing/why": {
            "says": "The least plan that leaves it alone adds 0.013 units more drift: it moves "
            "Depreciation, 2025–26 in Income in place of this one."
        },
        f"get {of}/proof": _json(page),
        f"get {of}/rows": _json(rows_view(proof, 1, 0, SHORTENED)),
        f"get {of}/figures/{{line}}/{{column}}": _json(figure_view(pack_proof, proof, figure, 1)),
        f"get {of}/figures/{{line}}/{{column}}/tieable": [
            {"statement": "position", "line": "surplus", "column": "y26", "printed": "413", "same": True}
            | {"name": "Surplus for the year, 31 March 2026 in Position"}
        ],
        f"get {one}/figures/{{line}}/{{column}}": _json(figure_view(pack_proof, proof, figure, 1)),
        f"get {of}/nudges": _json(footing_view(prove(footed, statement), 2)),
        "post /api/intakes": _json(intake),
        "post /api/intakes/pasted": _json(intake),
        "get /api/intakes/databases": [{"name": "close", "address": "postgresql://db.example/close"}],
        "post /api/intakes/databases/{name}": _json(intake),
        "get /api/intakes/samples": ["close-2027.csv", "routes-2026.csv"],
        "post /api/intakes/samples/{name}": _json(intake),
        "get /api/intakes/{intake}": _json(intake),
        "patch /api/intakes/{intake}/tables/{table}": _json(intake),
        "get /api/intakes/{intake}/tables/{table}/rows/{row}/words": [
            _json(each) if isinstance(each, BaseModel) else each
            for each in told_view(row_sentence(draft(table), 1))[:SHORTENED]
        ],
        "get /api/intakes/{intake}/decisions": _json(Decisions()),
        "put /api/intakes/{intake}/decisions": _json(intake),
        "post /api/intakes/{intake}/accept": _json(view),
        "post /api/intakes/{intake}/compare": _json(_comparison(pack)),
        "post /api/intakes/{intake}/roll": _json(view),
        "post /api/show": [_json(shown) for shown in bare.show_values(bare.ShowRequest(**bare.EXAMPLE))],
        "post /api/foot": {
            "feasible": True,
            "printed": {"a": 10, "b": 11, "t": 21},
            "moved": ["b"],
            "added_drift": "0.2",
            "proved": True,
        },
    }


def _comparison(pack: Pack) -> ComparisonView:
    """The demo's income statement with made-up figures of the year after."""
    old = pack.statements[0]
    source = "Line,2026-27\n" + "".join(f"{line.label},{n}250.40\n" for n, line in enumerate(old.figured, 1))
    made = draft(read_text("next.csv", source.encode()))
    new = statement_of(made, "next", "Next")
    rolled = roll_forward(prove_pack(pack), {old.id: new}, "Year to 31 March 2027")
    return comparison_view(rolled, {0: Gone(old.id, made, new, turned=False)})


def _json(model: BaseModel) -> Any:
    return _shorter(model.model_dump(mode="json"))


def _shorter(value: Any) -> Any:
    if isinstance(value, dict):
        return {key: _shorter(item) for key, item in value.items()}
    return [_shorter(item) for item in value[:SHORTENED]] if isinstance(value, list) else value
