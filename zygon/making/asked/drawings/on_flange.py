"""A profile that is drawn square to an edge of a plate."""

from __future__ import annotations

from zygon.design.folding import DrawnProfile, Folding
from zygon.design.parts.kinds import is_plate
from zygon.design.pointer import pointer
from zygon.errors import DocumentError
from zygon.geometry.frame import FACES
from zygon.making.asked.drawings.place import Place
from zygon.making.features.outlines import shape_outlines
from zygon.making.metal.drawn_profile import profile_plane
from zygon.making.metal.folding import edges_of
from zygon.making.result.built import Built
from zygon.making.rooms.named import NamedPlace
from zygon.owner import flange_id, read_owner

__all__ = ["OnFlange"]

#: So much is seen round the edge at least (mm).
SEEN_ROUND = 60.0


class OnFlange(Place):
    """The profile of a flange, by its id. ``flange`` is its record where the document has none yet."""

    title = "the profile on its edge"

    def __init__(self, built: Built, part: str, feature: str, flange: DrawnProfile | None = None) -> None:
        super().__init__(built, part, feature)
        document = built.document
        record, key = document.parts.get(part), read_owner(feature).key
        if not is_plate(record):
            raise DocumentError(f"{part} is no folded part", entry="part", value=part, rule="a part in a plane, of metal that bends")
        folding = record.folding or Folding()
        if flange is None:
            said = folding.flanges.get(key)
            if not isinstance(said, DrawnProfile):
                raise DocumentError(
                    f"{record.name} has no profile {key} that is drawn", entry="feature", value=feature, rule="a drawn profile"
                )
            flange = said
        blank = self.meeting.blanks.get(part)
        if blank is None:
            raise DocumentError(f"{record.name} has no place yet", entry="part", value=part, rule="a part with a place")
        known = len(self.values.faults)
        shape_outlines(self.values, {part: blank}, self.meeting.instances)
        edges = edges_of(self.values, blank, folding)
        del self.values.faults[known:]
        edge = edges.get(flange.edge)
        if edge is None or flange.on:
            rule = f"one of {', '.join(edges)}"
            raise DocumentError(f"{record.name} has no straight edge {flange.edge} to draw on", entry="edge", value=flange.edge, rule=rule)
        self.record, self.blank, self.flange, self.edges, self.name = record, blank, flange, edges, record.name
        self.profile = profile_plane(self.values, blank, edge, flange)
        self.plane, self.motion = self.profile.on, blank.place @ self.profile.motion
        self.owner, self.drawing = flange_id(part, key), flange.drawing
        self.where = pointer("parts", part, "folding", "flanges", key, "drawing")
        points = [(p.x, p.y) for p in flange.drawing.points.values()] or [(0.0, 0.0)]
        reach = [max(SEEN_ROUND, *(1.2 * abs(p[k]) for p in points)) for k in (0, 1)]
        self.low, self.size = (-reach[0], -reach[1]), (2 * reach[0], 2 * reach[1])

    def takes(self, named: NamedPlace) -> bool:
        """Its own sides stand, whatever is drawn on them; its flanges do not."""
        own = named.part.partition("@")[0] == self.plane.part
        return not own or (named.text.rpartition(".")[2] in {w for pair in FACES.values() for w in pair} and named.text.count(".") == 1)
