"""House styles: the versions in the folder, what each says otherwise, and which packs follow them."""

from __future__ import annotations

from pathlib import Path
from typing import Annotated

from fastapi import Query, Request
from pydantic import BaseModel, ConfigDict, Field

from humble_sum.core.changes.apply import apply
from humble_sum.core.changes.rule_commands import FollowStyle, LeaveStyle
from humble_sum.core.errors import Fault, InputError
from humble_sum.core.proof.pack_proof import prove_pack
from humble_sum.core.rules.house_style import HouseStyle, StyleName, StyleVersion, own_words
from humble_sum.core.rules.rule_changes import rule_changes
from humble_sum.core.statements.pack import Pack
from humble_sum.exchange.style_folder import StyleFolder, keep_version, read_styles
from humble_sum.records.pack_rows import following, pack_row
from humble_sum.server.routes.addresses import addresses
from humble_sum.server.routes.packs import desk_of
from humble_sum.server.schemas import Ready

router = addresses("rulebook", "/house-styles")


class FollowerView(BaseModel):
    """A pack that follows a version."""

    id: str
    entity: str
    period: str


class HouseStyleView(BaseModel):
    """One version of a house style."""

    name: str
    version: int
    file: str
    newest: bool
    changes: list[str] = Field(description="Changes since the version before, in words.")
    followers: list[FollowerView]
    follow: Ready | None = Field(description="Has the pack follow it; null where it already does.")


class FollowingView(BaseModel):
    """What the pack in hand follows."""

    name: str
    version: int
    kept: bool = Field(description="Whether that version is in the folder.")
    own: list[str] = Field(description="Where the pack differs, in words.")
    newest: int | None = Field(description="A later version, where there is one.")
    changes: list[str] = Field(description="Changes from the version followed to the later one.")
    follow: Ready | None = Field(description="Has the pack follow the later one.")
    leave: Ready


class HouseStylesView(BaseModel):
    """The house styles that are offered, and what the pack in hand follows."""

    styles: list[HouseStyleView]
    following: FollowingView | None
    faults: list[str] = Field(description="Files that cannot be offered, and why.")


class KeepRequest(BaseModel):
    """A pack's rules as the next version of a house style, or as the first."""

    model_config = ConfigDict(
        extra="forbid",
        json_schema_extra={"examples": [{"pack": "3f2a", "name": "Ferries, statutory", "version": 1}]},
    )
    pack: str
    name: StyleName
    version: StyleVersion


@router.get("")
def see_house_styles(
    request: Request, pack: Annotated[str | None, Query(description="The pack that would follow one.")] = None
) -> HouseStylesView:
    """Every version in the folder of house styles, by name, with the packs that follow it."""
    desk = desk_of(request)
    folder = styles_of(request)
    with desk.database.reading() as session:
        inhand = None if pack is None else desk.pack(session, pack_row(session, pack))
        followers: dict[HouseStyle, list[FollowerView]] = {}
        for row, followed in following(session):
            of = HouseStyle(name=followed.name, version=followed.version)
            view = FollowerView(id=row.id, entity=row.entity, period=row.period)
            followers.setdefault(of, []).append(view)
    return HouseStylesView(
        styles=[
            HouseStyleView(
                name=each.style.name,
                version=each.style.version,
                file=each.file,
                newest=folder.newest(each.style.name) is each,
                changes=folder.changes(each),
                followers=followers.get(each.style, []),
                follow=None if inhand is None else _follow(folder, inhand, each.style),
            )
            for each in folder.styles
        ],
        following=None if inhand is None else _following(folder, inhand),
        faults=[str(fault) for fault in folder.faults],
    )


@router.post("", status_code=201)
def keep_house_style(request: Request, body: KeepRequest) -> HouseStylesView:
    """Keep a pack's rules as a version of a house style. A version that is kept stays as it is."""
    desk = desk_of(request)
    with desk.database.reading() as session:
        found = desk.pack(session, pack_row(session, body.pack))
    keep_version(_folder(request), HouseStyle(name=body.name, version=body.version), found.rulebook)
    return see_house_styles(request, body.pack)


def _folder(request: Request) -> Path:
    folder = request.app.state.house_styles
    assert isinstance(folder, Path)
    return folder


def styles_of(request: Request) -> StyleFolder:
    """The house styles that are offered."""
    return read_styles(_folder(request))


def begun_with(pack: Pack, folder: StyleFolder, style: HouseStyle) -> Pack:
    """A new pack that follows a house style from the start. Raises InputError."""
    change = _follow(folder, pack, style)
    if change is None:
        what = f"{style.said} is not in the folder of house styles."
        raise InputError("no-such-style", Fault("house_style", what, "Choose one that is offered."))
    return apply(prove_pack(pack), change).pack


def _follow(folder: StyleFolder, pack: Pack, style: HouseStyle) -> FollowStyle | None:
    file = folder.version(style.name, style.version)
    follows = pack.follows
    if file is None or (follows and (follows.name, follows.version) == (style.name, style.version)):
        return None
    return FollowStyle(kind="follow_style", statement=pack.statements[0].id, rulebook=file.data)


def _following(folder: StyleFolder, pack: Pack) -> FollowingView | None:
    follows = pack.follows
    if follows is None:
        return None
    here, newest = folder.version(follows.name, follows.version), folder.newest(follows.name)
    later = newest if newest is not None and newest.style.version > follows.version else None
    return FollowingView(
        name=follows.name,
        version=follows.version,
        kept=here is not None,
        own=own_words(pack.rulebook, follows, here.rulebook) if here else [],
        newest=later.style.version if later else None,
        changes=rule_changes(here.rulebook, later.rulebook) if here and later else [],
        follow=_follow(folder, pack, later.style) if later else None,
        leave=LeaveStyle(kind="leave_style", statement=pack.statements[0].id),
    )
