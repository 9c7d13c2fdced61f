"""What figures can be taken away in, and what they can be taken in from."""

from __future__ import annotations

from fastapi import APIRouter
from pydantic import BaseModel, Field

from humble_sum.exchange.formats import FORMATS, Format
from humble_sum.exchange.sources.source_kinds import SOURCES
from humble_sum.server.routes.addresses import addresses

router: APIRouter = addresses("formats")


class FormatView(BaseModel):
    """A format: its name in addresses and commands, what it is called, and what it keeps."""

    name: str
    label: str
    keeps: str
    extension: str
    of: list[str] = Field(description="What can be written so: statement, dashboard, chart, issue.")


class SourceView(BaseModel):
    """A kind of source that figures are taken in from, and how its files' names may end."""

    label: str
    endings: list[str]


class FormatsView(BaseModel):
    """Every format that figures go out in, and every kind of source that they come from."""

    formats: list[FormatView]
    sources: list[SourceView]


@router.get("/formats")
def see_formats() -> FormatsView:
    """Every format that figures go out in, and every kind of source that they come from."""
    return FormatsView(
        formats=[
            FormatView(
                name=each.name,
                label=each.label,
                keeps=each.keeps,
                extension=each.extension,
                of=_subjects(each),
            )
            for each in FORMATS.values()
        ],
        sources=[SourceView(label=each.label, endings=list(each.endings)) for each in SOURCES],
    )


def _subjects(format: Format) -> list[str]:
    found = {
        "statement": format.statement,
        "dashboard": format.dashboard,
        "chart": format.chart,
        "issue": format.issued,
    }
    return [subject for subject, can in found.items() if can]
