"""Rules of the part itself: one piece, and the face that is worked lies up."""

from __future__ import annotations

import shapely

from zygon.check.called import called
from zygon.design.document import Document
from zygon.design.pointer import pointer
from zygon.geometry.boolean import Region, to_polygon
from zygon.making.asked.thirds import crossing_triples, thirds
from zygon.making.flats.face_words import face_word
from zygon.making.metal.legs import record_of
from zygon.making.result.built import FlatPart
from zygon.making.result.fault import Fault, Mend
from zygon.making.result.fold import Fold
from zygon.making.result.operations import Side
from zygon.measure.display import listed
from zygon.owner import flange_id, is_of, read_owner

__all__ = ["gone_faults", "piece_faults", "underside_faults"]

#: Pieces of up to this share of the part are waste that was cut loose; larger ones were hardly meant to be thrown away.
WASTE = 0.25
#: Less than this (mm²) is nothing.
SPECK = 1.0


def piece_faults(document: Document, part: FlatPart, *, tried: bool = False) -> list[Fault]:
    """A part is one piece; where it is not, what cuts it apart is named, and of a folded part which flanges are cut off.

    With ``tried`` what has to be worked out on the whole design is offered too.
    """
    pieces = part.flat.pieces
    n = len(pieces)
    if n == 1:
        return []
    if not n:
        return [Fault("pieces", f"Nothing is left of {part.path}", "a part is one piece", "0", "geometry", part=part.key)]
    shapes = [to_polygon(p.outer) for p in pieces]
    main, cut_off = _main(part, shapes), ""
    flanges = _flanges(part, shapes, main)
    if flanges:
        names = [called(document, flange_id(part.of, k)) for k in flanges]
        cut_off = f": {listed(names)} {'hangs' if len(names) == 1 else 'hang'} on nothing any more"
    blamed = _blamed(part, pieces, main)
    why = f"{listed([f'the {called(document, o)}' for o in blamed])} {'cuts' if len(blamed) == 1 else 'cut'} it apart" if blamed else ""
    message = f"{part.path} falls into {n} pieces{cut_off}" + (f"{', as ' if cut_off else ': '}{why}" if why else "")
    loose = max((i for i in range(n) if i != main), key=lambda i: shapes[i].area)
    at = shapely.point_on_surface(shapes[loose])
    rest = sum(s.area for i, s in enumerate(shapes) if i != main)
    mends = [_without(document, part, o) for o in blamed if len(blamed) == 1 and is_of(o, "feature")]
    if flanges:
        without = _unbent(document, part, flanges)
        if _other(part, [s for i, s in enumerate(shapes) if i != main], flanges):
            without.patch.append(_thrown(part))
        mends.append(without)
    if tried and len(blamed) > 1:
        mends += _thirds(document, [read_owner(o).key for o in blamed if is_of(o, "joint")])
    if rest <= WASTE * shapes[main].area and not flanges:
        what = "piece" if n == 2 else "pieces"
        mends.append(Mend(f"Take the loose {what} away", [_thrown(part)]))
    return [
        Fault(
            "pieces",
            message,
            "a part is one piece",
            str(n),
            "geometry",
            part=part.key,
            owner=blamed[0] if blamed else "",
            at=(at.x, at.y),
            mends=tuple(mends),
        )
    ]


def _main(part: FlatPart, shapes: list[shapely.Polygon]) -> int:
    """The piece that is the part: the largest, of a folded part the one that the plate is in."""
    fold = part.flat.fold
    if fold is None:
        return 0
    plate = shapely.union_all([to_polygon(c) for c in fold.faces[0].outline])
    return max(range(len(shapes)), key=lambda i: shapely.area(shapely.intersection(shapes[i], plate)))


def _thrown(part: FlatPart) -> dict[str, str]:
    return {"op": "add", "path": pointer("parts", part.of, "loose"), "value": "removed"}


def _other(part: FlatPart, shapes: list[shapely.Polygon], flanges: list[str]) -> bool:
    """Whether what is cut off is more than some flanges."""
    fold: Fold = part.flat.fold  # type: ignore[assignment]
    own = [to_polygon(c) for f in fold.faces[1:] if record_of(f.key) in flanges for c in f.outline]
    own += [to_polygon(b.outline) for b in fold.bends if record_of(b.key) in flanges]
    return bool(shapely.area(shapely.difference(shapely.union_all(shapes), shapely.union_all(own))) > SPECK)


def _flanges(part: FlatPart, shapes: list[shapely.Polygon], main: int) -> list[str]:
    """The flanges (by record) most of which lies in a piece that is cut off."""
    fold = part.flat.fold
    found: dict[str, None] = {}
    for face in fold.faces[1:] if fold else ():
        shape = shapely.union_all([to_polygon(c) for c in face.outline])
        inside = [shapely.area(shapely.intersection(s, shape)) for s in shapes]
        if max(inside) > 0 and max(range(len(shapes)), key=inside.__getitem__) != main:
            found[record_of(face.key)] = None
    return list(found)


def _blamed(part: FlatPart, pieces: tuple[Region, ...], main: int) -> list[str]:
    """The cuts that run along both the part and what it loses."""
    own = set(pieces[main].outer.owners)
    shared = {o for i, p in enumerate(pieces) if i != main for o in p.outer.owners if o in own}
    return sorted(o for o in shared if is_of(o, "feature", "joint", "bore"))


def _thirds(document: Document, laps: list[str]) -> list[Mend]:
    """Sharing a crossing of three boards in thirds, where two of its cross laps cut a board in two."""
    for keys in crossing_triples(document, laps):
        if len(set(keys) & set(laps)) > 1 and (patch := thirds(document, keys)):
            names = listed(
                [
                    document.parts[k.partition("@")[0]].name
                    for k in dict.fromkeys(x for j in keys for x in (document.joints[j].a, document.joints[j].b))
                ]
            )
            return [Mend(f"Share the crossing of {names} in thirds", patch)]
    return []


def _without(document: Document, part: FlatPart, owner: str) -> Mend:
    """Removing the feature that cuts a part apart."""
    _, key, _, flange = read_owner(owner)
    where = ("folding", "flanges", flange, "features", key) if flange else ("features", key)
    return Mend(f"Do without the {called(document, owner)}", [{"op": "remove", "path": pointer("parts", part.of, *where)}])


def _unbent(document: Document, part: FlatPart, flanges: list[str]) -> Mend:
    """Removing flanges that hang on nothing, with those that stand on them."""
    names = listed([called(document, flange_id(part.of, k)) for k in flanges])
    return Mend(
        f"Do without {names}", [{"op": "remove", "path": pointer("parts", part.of, "folding", "flanges", k)} for k in reversed(flanges)]
    )


def gone_faults(document: Document, part: FlatPart) -> list[Fault]:
    """Flanges that were thrown away with what was cut loose."""
    flat, record = part.flat, part.record
    if flat.fold is None or record.folding is None or record.loose == "kept" or record.folding.split:
        return []
    there = {record_of(f.key) for f in flat.fold.faces[1:]}
    gone = [k for k in record.folding.flanges if k not in there and not record.folding.flanges[k].out]
    if not gone:
        return []
    names = listed([called(document, flange_id(part.of, k)) for k in gone])
    return [
        Fault(
            "flange_gone",
            f"{part.path}: {names} went away with what is cut loose, and {'is' if len(gone) == 1 else 'are'} not bent",
            "a flange hangs on the part",
            names,
            "geometry",
            "warning",
            part.key,
            owner=flange_id(part.of, gone[0]),
            mends=(_unbent(document, part, gone),),
        )
    ]


def underside_faults(part: FlatPart) -> list[Fault]:
    """A part that is worked on the face that lies down alone would lie better the other way."""
    up = part.record.up
    down: Side = "b" if up == "a" else "a"
    if part.flat.worked(up) or not part.flat.worked(down):
        return []
    names: dict[Side, str] = {"a": face_word(part, "a"), "b": face_word(part, "b")}
    mend = Mend(f"Lay {part.path} with its {names[down]} up", [{"op": "add", "path": pointer("parts", part.key, "up"), "value": down}])
    return [
        Fault(
            "underside",
            f"{part.path} is worked on its {names[down]} alone, which lies down on the cutter",
            "the face that is worked lies up",
            names[down],
            "common practice",
            "warning",
            part.key,
            mends=(mend,),
        )
    ]
