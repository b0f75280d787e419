"""Frames as one edit each: one to begin with, the joints where members meet, members bent from one bar; lines and frames removed."""

from __future__ import annotations

from collections.abc import Collection
from itertools import combinations
from typing import Any

import numpy as np

from zygon.design.document import Document
from zygon.design.frame_starts import FRAME_STARTS, Started
from zygon.design.frames import LineFrame
from zygon.design.layout_operations import entry_of, fresh_key, fresh_name, next_order
from zygon.design.operations import remove_part
from zygon.design.parts.kinds import is_connector, is_framed, is_member, is_placed
from zygon.design.patch import Patch, patched
from zygon.design.pointer import pointer
from zygon.edits.connectors import add_connectors
from zygon.errors import DocumentError
from zygon.geometry.frame import AXES
from zygon.making.asked.questions import Meeting
from zygon.making.kinds.base import Sizes
from zygon.making.kinds.registry import sizes_of
from zygon.making.pipeline import build
from zygon.making.result.built import CHORDS, Built
from zygon.making.rooms.named import figure
from zygon.making.solids.solids import depth_in_common
from zygon.making.tube.meeting import MemberMeeting
from zygon.stock.bar import BarStock
from zygon.stock.kinds import is_bar
from zygon.stock.section import OPEN

__all__ = ["UPRIGHT", "add_frame", "bar_of", "bend_members", "join_members", "remove_frame", "remove_line"]

#: A line nearer to upright than this (as a cosine) has its side at 0 degrees toward the back.
UPRIGHT = 0.9


def add_frame(
    built: Built, kind: str, stock: str, places: dict[str, tuple[str, str]], *, count: int = 0, name: str = "", ends: str = "cut"
) -> tuple[str, Patch]:
    """Label and patch of a frame to begin with, between places along x, y and z that are entries.

    With ``ends`` 'cut' its outside lies between them and its ends are joined; with 'connectors' the middles of its members do, and connectors hold them. Raises DocumentError for what cannot be."""
    document, start = built.document, FRAME_STARTS.get(kind)
    if start is None:
        rule = f"one of {', '.join(FRAME_STARTS)}"
        raise DocumentError(f"There is no frame {kind} to begin with", entry="kind", value=kind, rule=rule)
    if set(places) != set(AXES):
        raise DocumentError("A frame has a low and a high place along x, y and z", entry="places", value=sorted(places), rule="three pairs")
    if start.count and not 1 <= count <= 100:
        raise DocumentError(f"{start.title}: {count} {start.count.lower()}", entry="count", value=count, rule="from 1 to 100")
    bar = bar_of(document, stock)
    if kind == "box" and ends == "cut" and bar.shape in OPEN:
        why = f"{bar.name} is open, and the rails of a box would meet between the legs of its posts"
        rule = "a tube or a solid bar, or ends in connectors"
        raise DocumentError(why, entry="stock", value=stock, rule=rule)
    started = start.make(places, count)
    called = fresh_name(document, name or kind)
    key = fresh_key(document.frames, called)
    taken = {called}
    names: dict[str, str] = {}
    for member in started.members:
        names[member] = fresh_name(document, member, taken)
        taken.add(names[member])
    patch: Patch = [{"op": "add", "path": pointer("frames", key), "value": _frame_record(document, called, started, names)}]
    keys: dict[str, str] = {}
    for n, (member, said) in enumerate(started.members.items()):
        keys[member] = fresh_key({**document.parts, **dict.fromkeys(keys.values())}, names[member])
        said = {**said, "lies": "middle"} if ends == "connectors" else said
        record = {"kind": "member", "name": names[member], "stock": stock, "frame": key, "order": next_order(document.parts) + n, **said}
        patch.append({"op": "add", "path": pointer("parts", keys[member]), "value": record})
    if ends == "connectors":
        after = build(patched(document.dump(), patch))
        return f"{start.title} of {document.stocks[stock].name}, with connectors", patch + add_connectors(after, key, [])[1]
    joints: dict[str, Any] = dict(document.joints)
    round_ = usual_on(document, stock) == "member_cope"
    rounded = [(one, other, "on") for one, other in started.rounded] if round_ else []
    for n, (one, other, how) in enumerate([*started.joined, *rounded]):
        joint = "member_mitre" if how == "mitre" else usual_on(document, stock)
        at = fresh_key(joints, f"{keys[one]}-{keys[other]}")
        joints[at] = True
        record = {"kind": joint, "a": keys[one], "b": keys[other], "order": next_order(document.joints) + n}
        patch.append({"op": "add", "path": pointer("joints", at), "value": record})
    if bar.shape in OPEN:
        made = build(patched(document.dump(), patch)).joints
        refused = next((made[k].refused for k in joints if k not in document.joints and k in made and made[k].refused), "")
        if refused:
            raise DocumentError(
                f"{start.title} of {bar.name}: {refused}", entry="stock", value=stock, rule="a tube or a solid bar, or ends in connectors"
            )
    return f"{start.title} of {bar.name}", patch


def _frame_record(document: Document, name: str, started: Started, names: dict[str, str]) -> dict[str, Any]:
    def said(point: dict[str, Any]) -> dict[str, Any]:
        if "off" in point:
            return {**point, "off": entry_of(document, point["off"].format(**names))}
        return {**point, "at": {a: entry_of(document, text.format(**names)) for a, text in point["at"].items()}}

    points = {k: said(p) for k, p in started.points.items()}
    return {"name": name, "order": next_order(document.frames), "points": points, "lines": started.lines}


def bar_of(document: Document, stock: str) -> BarStock:
    """A bar stock by its key. Raises DocumentError where it is none."""
    record = document.stocks.get(stock)
    if not is_bar(record):
        rule = "a bar stock of the design"
        raise DocumentError("A member is cut from a bar or tube of this design", entry="stock", value=stock, rule=rule)
    return record


def usual_on(document: Document, main: str) -> str:
    """How an end is usually cut that lies on a side of a main of a stock."""
    record = document.stocks[main]
    return "member_cope" if record.kind == "bar" and record.shape == "round" else "member_butt"


def usual_joint(document: Document, contact: str, main: str, corner: str = "") -> list[str]:
    """The kinds of joint that are usual where a member meets a main so, the best first; ``corner`` is what is wished where two ends meet."""
    part = document.parts[main.partition("@")[0]]
    on = usual_on(document, part.stock) if is_placed(part) else "member_cope"
    cut = [on, "member_cope", "member_butt"]
    if contact == "corner":
        wished = {"mitre": "member_mitre", "butt": on}.get(corner)
        return [wished, "member_mitre", *cut] if wished else ["member_mitre", *cut]
    return cut if contact == "tee" else ["member_passage", "member_notch"]


def join_members(
    built: Built, of: Collection[str] = (), corner: str = "", *, first: str = "", pairs: Collection[frozenset[str]] = ()
) -> tuple[str, Patch]:
    """Label and patch that join members where they meet and are not joined yet, each pair as is usual; ``of`` names those that are meant, else all,
    and ``pairs`` the only ones that are.

    Where an end meets a side it is the end that is cut. Where three or more ends meet, ``first``, or the one that comes first in the order of the parts,
    is cut by none, the others lie on it, and on one another where they would take up the same room. Raises DocumentError where no two of them meet.
    """
    document, asked = built.document, Meeting(built.document)
    members = sorted((k for k, p in document.placed().items() if is_member(p)), key=lambda k: k != first)
    meetings = {(a, b): m for a, b in combinations(members, 2) if (m := asked.of_members(a, b)) and m.kind in ("corner", "tee")}
    done = {frozenset((j.a.partition("@")[0], j.b.partition("@")[0])) for j in document.joints.values()}
    done |= built.in_one_connector
    meant = [(pair, m) for pair, m in meetings.items() if (not of or set(pair) & set(of)) and frozenset(pair) not in done]
    wanted = [(pair, m) for pair, m in meant if not pairs or frozenset(pair) in pairs]
    patch: Patch = []
    keys: dict[str, Any] = dict(document.joints)

    def join(pair: tuple[str, str], corner: str) -> None:
        offers = [o for o in asked.offers(*pair) if not o["refused"]]
        offer = _best(document, offers, *pair, corner)
        if offer is None:
            return
        a, b = pair if offer["order"] == "ab" else pair[::-1]
        key = fresh_key(keys, f"{a}-{b}")
        keys[key] = True
        record = {"kind": offer["kind"], "a": a, "b": b, "order": next_order(document.joints) + len(patch)}
        patch.append({"op": "add", "path": pointer("joints", key), "value": record})

    later = []
    for pair, meeting in wanted:
        main = _main_of(members, meetings, pair, meeting)
        if main not in (None, pair[0]):
            later.append(pair)
        else:
            join(pair, "butt" if main else corner)
    for pair in later:
        made = build(patched(document.dump(), patch)).made
        if pair[0] in made and pair[1] in made and depth_in_common(made[pair[0]], made[pair[1]], CHORDS):
            join(pair, "butt")
    if not patch:
        raise DocumentError("No two members meet that are not joined", entry="of", value=list(of), rule="members that meet")
    return f"Join {len(patch)} {'pair' if len(patch) == 1 else 'pairs'} of members", patch


def _main_of(
    members: list[str], meetings: dict[tuple[str, str], MemberMeeting], pair: tuple[str, str], meeting: MemberMeeting
) -> str | None:
    """Where the ends of a pair meet others too, the first of all that meet there; None where they are alone."""
    if meeting.kind != "corner":
        return None
    at = dict(zip(pair, (meeting.at_one, meeting.at_other), strict=True))
    found = set(pair)
    for (a, b), m in meetings.items():
        ends = {a: m.at_one, b: m.at_other}
        for mine, other in ((a, b), (b, a)):
            if mine in pair and other not in pair and ends[mine] == at[mine]:
                found.add(other)
    return min(found, key=members.index) if len(found) > 2 else None


def _best(document: Document, offers: list[dict[str, str]], one: str, other: str, corner: str) -> dict[str, str] | None:
    """The offer that is usual; the later member is the one that is cut, where both could be."""
    ranked = []
    for o in offers:
        main = other if o["order"] == "ab" else one
        kinds = usual_joint(document, o["contact"], main, corner)
        if o["kind"] in kinds:
            ranked.append((kinds.index(o["kind"]), o["order"] != "ba", o))
    return min(ranked, key=lambda r: r[:2])[2] if ranked else None


def bend_members(built: Built, of: Collection[str], radius: str = "") -> tuple[str, Patch]:
    """Label and patch that make members whose lines follow one another one that is bent by a radius, an entry; twice as thick as it is where not said.

    The first of them stays, of its own stock and name. Raises DocumentError where they lie on no lines in a row of one frame.
    """
    document = built.document
    named = {k: p for k in of if is_member(p := document.parts.get(k))}
    keys, chosen = list(named), list(named.values())
    rule = "members of one frame and stock whose lines follow one another"
    if len(chosen) < 2 or len({(p.frame, p.stock) for p in chosen}) > 1:
        raise DocumentError("These cannot be bent from one bar", entry="of", value=list(of), rule=rule)
    frame = document.frames[chosen[0].frame]
    lines = _in_a_row(frame, [line for p in chosen for line in p.lines])
    if lines is None:
        raise DocumentError("Their lines do not follow one another", entry="of", value=list(of), rule=rule)
    first, rest = keys[0], keys[1:]
    own = [k for k, j in document.joints.items() if {j.a.partition("@")[0], j.b.partition("@")[0]} & set(keys)]
    patch = _without(document, rest, [{"op": "remove", "path": pointer("joints", k)} for k in own])
    sizes = sizes_of(built.made[first]) if first in built.made else Sizes()
    text = radius or figure(2 * max(sizes.thickness or 0.0, sizes.width or 0.0, 1.0), document.unit)
    where = pointer("parts", first)
    patch += [
        {"op": "add", "path": f"{where}/lines", "value": lines},
        {"op": "add", "path": f"{where}/radius", "value": entry_of(document, text)},
        {"op": "add", "path": f"{where}/lies", "value": "middle"},
        {"op": "add", "path": f"{where}/against", "value": _across_of(built, chosen[0].frame, lines)},
    ]
    return f"Bend {document.parts[first].name} from one bar", patch


def _in_a_row(frame: LineFrame, lines: list[str]) -> list[str] | None:
    """Lines in the order in which they follow one another; None where they do not."""
    at: dict[str, list[str]] = {}
    for key in lines:
        for p in (frame.lines[key].a, frame.lines[key].b):
            at.setdefault(p, []).append(key)
    ends = [p for p, keys in at.items() if len(keys) == 1]
    if len(ends) != 2 or any(len(keys) > 2 for keys in at.values()):
        return None
    start = min(ends, key=lambda p: lines.index(at[p][0]))
    found, point = [at[start][0]], start
    while len(found) < len(lines):
        line = frame.lines[found[-1]]
        point = line.b if line.a == point else line.a
        more = [k for k in at[point] if k != found[-1]]
        if not more:
            return None
        found.append(more[0])
    return found


def _across_of(built: Built, frame: str, lines: list[str]) -> str:
    """An axis that the first of lines in a row does not run along: up, or to the back."""
    record = built.document.frames[frame]
    points = [
        np.array(built.points[frame][p]) for p in (record.lines[lines[0]].a, record.lines[lines[0]].b) if p in built.points.get(frame, {})
    ]
    way = points[1] - points[0] if len(points) == 2 else np.array((1.0, 0.0, 0.0))
    return "y" if abs(float(way[2])) > UPRIGHT * float(np.linalg.norm(way)) else "z"


def remove_line(document: Document, frame: str, line: str) -> tuple[str, Patch]:
    """Label and patch that remove a line with the members on it, and the points that nothing uses any more with what stands on them. Raises DocumentError where there is none."""
    record = document.frames.get(frame)
    if record is None or line not in record.lines:
        raise DocumentError(f"There is no line {line!r}", entry="line", value=line, rule="a line of a frame")
    if len(record.lines) == 1:
        return remove_frame(document, frame)
    if record.drawing is not None and line in record.drawing.curves:
        raise DocumentError(
            "This line is drawn; erase it in the drawing of its path", entry="line", value=line, rule="a line that is not drawn freely"
        )
    rest = {k: ln for k, ln in record.lines.items() if k != line}
    ends = {p for ln in rest.values() for p in (ln.a, ln.b)}
    held = [k for k, p in record.points.items() if p.on == line and k in ends]
    if held:
        rule = "no other line begins on it"
        raise DocumentError("Another line begins on this one; remove that first", entry="line", value=line, rule=rule)
    lost = [k for k, p in record.points.items() if k not in ends and (p.on == line or k in (record.lines[line].a, record.lines[line].b))]
    of = {k: p for k, p in document.parts.items() if is_framed(p) and p.frame == frame}
    gone = [k for k, p in of.items() if (is_member(p) and line in p.lines) or (is_connector(p) and p.point in lost)]
    patch = _without(document, gone)
    patch.append({"op": "remove", "path": pointer("frames", frame, "lines", line)})
    patch += [{"op": "remove", "path": pointer("frames", frame, "points", k)} for k in lost]
    return f"Remove a line of {record.name}", patch


def remove_frame(document: Document, frame: str) -> tuple[str, Patch]:
    """Label and patch that remove a frame with all its members. Raises DocumentError where there is none."""
    if frame not in document.frames:
        raise DocumentError(f"There is no frame with the key {frame!r}", entry="frame", value=frame, rule="a frame of the design")
    gone = [k for k, p in document.parts.items() if is_framed(p) and p.frame == frame]
    patch = _without(document, gone)
    return f"Remove {document.frames[frame].name}", [*patch, {"op": "remove", "path": pointer("frames", frame)}]


def _without(document: Document, parts: list[str], patch: Patch | None = None) -> Patch:
    """What goes with parts, one after the other, behind a patch."""
    patch = patch or []
    after = patched(document.dump(), patch) if patch else document
    for key in parts:
        patch += remove_part(after, key)[1]
        after = patched(document.dump(), patch)
    return patch
