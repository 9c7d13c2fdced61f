"""The changes to what a pack places outside of its statements: dashboards, and the items on them."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import BeforeValidator, Field

from humble_sum.core.changes.command import Command, OnPack, Planner
from humble_sum.core.changes.ordering import put_before
from humble_sum.core.errors import Fault, InputError
from humble_sum.core.ids import new_id
from humble_sum.core.places.passage_text import Mark, Run, read_passage, write_passage
from humble_sum.core.places.passages import refreshed
from humble_sum.core.places.placed_figure import Placer
from humble_sum.core.places.repeating import repeated_over
from humble_sum.core.printing.clauses import read_clauses
from humble_sum.core.proof.pack_proof import PackProof, prove_pack
from humble_sum.core.rules.rulebook import Id
from humble_sum.core.statements.edition import OWN
from humble_sum.core.statements.in_edition import in_edition
from humble_sum.core.statements.names import Called, FigureRef, Reason, cleaned
from humble_sum.core.statements.pack import Pack
from humble_sum.core.statements.placed import MOST_ITEMS, MOST_TEXT, Dashboard, Item, Passage, Shows, Tile
from humble_sum.core.statements.validation import check


class AddDashboard(OnPack):
    """Add a dashboard for the readers of an edition."""

    kind: Literal["add_dashboard"]
    name: Called
    edition: Id = OWN

    def changed(self, pack: Pack) -> tuple[Pack, str]:
        id = new_id(self.name, {each.id.lower() for each in pack.dashboards})
        made = Dashboard(id=id, name=self.name, edition=self.edition)
        return _with(pack, (*pack.dashboards, made)), f"Added the dashboard {self.name}"


class EditDashboard(OnPack):
    """Call a dashboard otherwise, or have it show another edition."""

    kind: Literal["edit_dashboard"]
    dashboard: Id
    name: Called | None = None
    edition: Id | None = None

    def changed(self, pack: Pack) -> tuple[Pack, str]:
        old = dashboard_of(pack, self.dashboard)
        words = {name: value for name in ("name", "edition") if (value := getattr(self, name)) is not None}
        return _replaced(pack, old.model_copy(update=words)), f"Changed the dashboard {self.name or old.name}"


class RemoveDashboard(OnPack):
    """Take a dashboard out, with all that is on it."""

    kind: Literal["remove_dashboard"]
    dashboard: Id

    def changed(self, pack: Pack) -> tuple[Pack, str]:
        old = dashboard_of(pack, self.dashboard)
        left = tuple(each for each in pack.dashboards if each.id != old.id)
        return _with(pack, left), f"Removed the dashboard {old.name}"


class PlaceItem(Command):
    """Put a tile, chart or passage on a dashboard: in place of the one with its id, or before another, or
    at the end."""

    kind: Literal["place_item"]
    dashboard: Id
    item: Item
    before: Id | None = None

    def make(self, pack_proof: PackProof, planner: Planner) -> tuple[Pack, str]:
        pack, dashboard = pack_proof.pack, dashboard_of(pack_proof.pack, self.dashboard)
        item = _fresh(pack_proof, dashboard, self.item)
        if dashboard.item(item.id) is not None:
            placed = tuple(item if each.id == item.id else each for each in dashboard.items)
        else:
            placed = put_before(dashboard.items, item, self.before, "no-such-item")
        if len(placed) > MOST_ITEMS:
            what = f"A dashboard has at most {MOST_ITEMS} items."
            raise InputError("bad-structure", Fault("item", what, "Put this one on another dashboard."))
        changed = _on(pack, dashboard, placed)
        check(changed)
        return changed, f"{item.label} on {dashboard.name}"


class OnItem(Command):
    """A command made on one item of a dashboard."""

    dashboard: Id
    item: Id

    def make(self, pack_proof: PackProof, planner: Planner) -> tuple[Pack, str]:
        """The pack with its item changed, checked."""
        dashboard = dashboard_of(pack_proof.pack, self.dashboard)
        items, says = self.items_left(pack_proof, dashboard, item_of(dashboard, self.item))
        changed = _on(pack_proof.pack, dashboard, items)
        check(changed)
        return changed, says

    def items_left(
        self, pack_proof: PackProof, dashboard: Dashboard, item: Any
    ) -> tuple[tuple[Any, ...], str]:
        """The dashboard's items after it, and what it did; all but this one as they were, if nothing else
        is said. Raises InputError."""
        new, says = self.item_changed(pack_proof, dashboard, item)
        return tuple(new if each.id == item.id else each for each in dashboard.items), says

    def item_changed(self, pack_proof: PackProof, dashboard: Dashboard, item: Any) -> tuple[Any, str]:
        """The item changed, and what that did. Raises InputError."""
        raise NotImplementedError


class MoveItem(OnItem):
    """Put an item right before another of its dashboard, or last."""

    kind: Literal["move_item"]
    before: Id | None

    def items_left(
        self, pack_proof: PackProof, dashboard: Dashboard, item: Any
    ) -> tuple[tuple[Any, ...], str]:
        if self.before == item.id:
            return dashboard.items, f"{item.label} stays where it is"
        return put_before(dashboard.items, item, self.before, "no-such-item"), f"{item.label} moved"


class SizeItem(OnItem):
    """Give an item so many of the twelve columns that a dashboard is wide."""

    kind: Literal["size_item"]
    width: Annotated[int, Field(ge=2, le=12)]

    def item_changed(self, pack_proof: PackProof, dashboard: Dashboard, item: Any) -> tuple[Any, str]:
        return item.model_copy(update={"width": self.width}), f"{item.label} {self.width} of 12 wide"


class RemoveItem(OnItem):
    """Take an item off its dashboard."""

    kind: Literal["remove_item"]
    dashboard: Id
    item: Id

    def items_left(
        self, pack_proof: PackProof, dashboard: Dashboard, item: Any
    ) -> tuple[tuple[Any, ...], str]:
        left = tuple(each for each in dashboard.items if each.id != item.id)
        return left, f"{item.label} removed from {dashboard.name}"


class WritePassage(OnItem):
    """Give a passage this text, in the form of passages."""

    kind: Literal["write_passage"]
    text: Annotated[str, Field(max_length=MOST_TEXT), BeforeValidator(cleaned)]

    def item_changed(self, pack_proof: PackProof, dashboard: Dashboard, item: Any) -> tuple[Any, str]:
        written = passage_of(item).model_copy(update={"text": self.text})
        return _fresh(pack_proof, dashboard, written), f"{item.label} written"


class RepeatPassage(OnItem):
    """Have a passage stand once for each of several lines or columns, one of which a figure of it is on;
    with none it stands once."""

    kind: Literal["repeat_passage"]
    over: Annotated[tuple[Id, ...], Field(max_length=400)]

    def item_changed(self, pack_proof: PackProof, dashboard: Dashboard, item: Any) -> tuple[Any, str]:
        new = _fresh(pack_proof, dashboard, repeated_over(passage_of(item), self.over))
        return new, f"{item.label} stands {f'{len(self.over)} times' if self.over else 'once'}"


class FollowFigure(OnItem):
    """Have what was typed by hand in a passage follow a figure: the mark at a paragraph and a place in
    it, or the figure typed in the text there, from one character to another."""

    kind: Literal["follow_figure"]
    paragraph: Annotated[int, Field(ge=0)]
    run: Annotated[int, Field(ge=0)]
    within: tuple[int, int] | None = None
    figure: FigureRef | None = None

    def item_changed(self, pack_proof: PackProof, dashboard: Dashboard, item: Any) -> tuple[Any, str]:
        new = _followed(pack_proof, dashboard, passage_of(item), self)
        return new, f"A figure of {item.label} follows"


class AcceptNudge(OnItem):
    """Leave a tile's figure as it is, though it shows a nudge of the page, for a reason."""

    kind: Literal["accept_nudge"]
    reason: Annotated[Reason, Field(pattern=r"\S")]

    def item_changed(self, pack_proof: PackProof, dashboard: Dashboard, item: Any) -> tuple[Any, str]:
        tile = _tile(item)
        shows = tile.shows.model_copy(update={"accepted": self.reason})
        return tile.model_copy(update={"shows": shows}), f"{item.label} accepted: {self.reason}"


class SetItemClause(OnItem):
    """Decide one clause of a tile or chart for itself; null leaves it to the rules."""

    kind: Literal["set_item_clause"]
    clause: str
    value: Any = None

    def item_changed(self, pack_proof: PackProof, dashboard: Dashboard, item: Any) -> tuple[Any, str]:
        new = _with_clause(item, self.clause, self.value)
        return new, f"{item.label}: {self.clause.replace('_', ' ')} changed"


def _with_clause(item: Any, clause: str, value: Any) -> Any:
    """The item with a clause of its own decided, or left to the rules."""
    if isinstance(item, Passage):
        raise InputError("bad-structure", Fault("item", "A passage prints by the rules for passages."))
    own = item.shows.clauses if isinstance(item, Tile) else item.clauses
    said = {name: each for name, each in own.items() if name != clause}
    if value is not None:
        said = read_clauses(said | {clause: value}).spelled()
    if isinstance(item, Tile):
        return item.model_copy(update={"shows": item.shows.model_copy(update={"clauses": said})})
    return item.model_copy(update={"clauses": said})


def _fresh(pack_proof: PackProof, dashboard: Dashboard, item: Any) -> Any:
    """A passage with what its marks print now as their last print; any other item as it is."""
    return refreshed(item, shown_in(pack_proof, dashboard.edition)) if isinstance(item, Passage) else item


def shown_in(pack_proof: PackProof, edition: str) -> PackProof:
    """The pack proved as the readers of an edition get it."""
    if pack_proof.pack.shown == edition:
        return pack_proof
    return prove_pack(in_edition(pack_proof.pack, edition))


def _followed(pack_proof: PackProof, dashboard: Dashboard, passage: Passage, change: FollowFigure) -> Passage:
    paragraphs = read_passage(passage.text)
    try:
        run = paragraphs[change.paragraph][change.run]
    except IndexError:
        raise _no_figure() from None
    shown = shown_in(pack_proof, dashboard.edition)
    if isinstance(run, Mark) and run.typed and run.shows is not None:
        text = Placer(shown, "passage").shown(run.shows).text
        made: list[Run] = [Mark(run.sort, run.shows, text, choices=run.choices)]
    elif isinstance(run, str) and change.within is not None and change.figure is not None:
        start, end = change.within
        if not 0 <= start < end <= len(run):
            raise _no_figure()
        shows = Shows(figure=change.figure)
        text = Placer(shown, "passage").shown(shows).text
        made = [each for each in (run[:start], Mark("figure", shows, text), run[end:]) if each]
    else:
        raise _no_figure()
    line = paragraphs[change.paragraph]
    paragraphs[change.paragraph] = [*line[: change.run], *made, *line[change.run + 1 :]]
    return passage.model_copy(update={"text": write_passage(paragraphs)})


def _no_figure() -> InputError:
    what = "There is no figure typed by hand at this place of the passage."
    return InputError("no-such-figure", Fault("run", what, "Read the passage again."))


def dashboard_of(pack: Pack, id: str) -> Dashboard:
    """One dashboard. Raises InputError where there is none."""
    found = pack.dashboard(id)
    if found is None:
        names = ", ".join(each.id for each in pack.dashboards) or "none"
        what = f'There is no dashboard "{id}".'
        raise InputError("no-such-dashboard", Fault("dashboard", what, f"There are: {names}."))
    return found


def item_of(dashboard: Dashboard, id: str) -> Any:
    """One item of a dashboard. Raises InputError where there is none."""
    found = dashboard.item(id)
    if found is None:
        raise InputError("no-such-item", Fault("item", f'There is no "{id}" on {dashboard.name}.'))
    return found


def passage_of(item: Any) -> Passage:
    """An item that is a passage. Raises InputError where it is none."""
    if not isinstance(item, Passage):
        raise InputError("bad-structure", Fault("item", f"{item.label} is not a passage."))
    return item


def _tile(item: Any) -> Tile:
    if not isinstance(item, Tile):
        raise InputError("bad-structure", Fault("item", f"{item.label} is not a tile."))
    return item


def _on(pack: Pack, dashboard: Dashboard, items: tuple[Any, ...]) -> Pack:
    return _replaced(pack, dashboard.model_copy(update={"items": items}))


def _replaced(pack: Pack, dashboard: Dashboard) -> Pack:
    return _with(pack, tuple(dashboard if each.id == dashboard.id else each for each in pack.dashboards))


def _with(pack: Pack, dashboards: tuple[Dashboard, ...]) -> Pack:
    return pack.model_copy(update={"dashboards": dashboards})
