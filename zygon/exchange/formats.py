"""Every kind of file that goes out: its suffix, its media type, what it is of, and of lists who writes them. Command line, API and ZIP read this."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Literal

from zygon.exchange.assembly_text import assembly_text
from zygon.exchange.bends import write_bends
from zygon.exchange.cutlist import write_csv
from zygon.exchange.drilling import write_drilling
from zygon.exchange.strokes import write_brake_program, write_strokes
from zygon.exchange.to_buy import write_to_buy
from zygon.exchange.tube_cuts import write_tube_cuts
from zygon.exchange.tubes import write_bender_table, write_saw_list
from zygon.making.result.built import Built

__all__ = ["FORMATS", "LISTS", "DesignList", "Format", "lists_of", "media_type"]


@dataclass(frozen=True)
class Format:
    """A kind of file. ``of``: a drawing of a part or sheet, a solid of a design or part, a list of a design, its papers, a program for its cutter, everything of it, or the design itself.

    ``exact``: its curves are curves and its faces are faces, not chords and facets.
    """

    suffix: str
    media: str
    of: Literal["drawing", "solid", "list", "papers", "program", "everything", "design"]
    exact: bool = True


FORMATS: dict[str, Format] = {
    f.suffix: f
    for f in (
        Format("dxf", "image/vnd.dxf", "drawing"),
        Format("svg", "image/svg+xml", "drawing"),
        Format("csv", "text/csv; charset=utf-8", "list"),
        Format("txt", "text/plain; charset=utf-8", "list"),
        Format("step", "model/step", "solid"),
        Format("stl", "model/stl", "solid", exact=False),
        Format("3mf", "model/3mf", "solid", exact=False),
        Format("glb", "model/gltf-binary", "solid", exact=False),
        Format("pdf", "application/pdf", "papers"),
        Format("png", "image/png", "papers", exact=False),
        Format("nc", "text/plain; charset=utf-8", "program"),
        Format("zip", "application/zip", "everything"),
        Format("json", "application/json", "design"),
    )
}


@dataclass(frozen=True)
class DesignList:
    """A list of a design: ``name`` is the end of its file's name, ``write`` gives '' where there is nothing, which ``nothing`` says."""

    name: str
    suffix: str
    write: Callable[[Built], str]
    nothing: str


LISTS: dict[str, DesignList] = {
    one.name: one
    for one in (
        DesignList("cut-list", "csv", write_csv, "There is nothing to cut."),
        DesignList("to-buy", "csv", write_to_buy, "Nothing is bought for this design."),
        DesignList("bend-table", "csv", write_bends, "Nothing of this design is bent."),
        DesignList("brake-program", "txt", write_brake_program, "Nothing of this design is bent on a press brake."),
        DesignList("brake-strokes", "json", write_strokes, "Nothing of this design is bent on a press brake."),
        DesignList("drilling-list", "csv", write_drilling, "Nothing of this design is left to a drill."),
        DesignList("saw-list", "csv", write_saw_list, "Nothing of this design is cut from a bar."),
        DesignList("tube-cuts", "json", write_tube_cuts, "Nothing of this design is cut from a bar."),
        DesignList("bender-table", "csv", write_bender_table, "No rod or tube of this design is bent."),
        DesignList("assembly", "txt", assembly_text, "There is nothing to put together."),
    )
}


def media_type(name: str) -> str:
    """The media type of a file by its name. Raises KeyError for a suffix that no file has."""
    return FORMATS[name.rpartition(".")[2]].media


def lists_of(built: Built) -> dict[str, str]:
    """Every list of a design that says something, by the end of its file's name."""
    return {f"{one.name}.{one.suffix}": text for one in LISTS.values() if (text := one.write(built))}
