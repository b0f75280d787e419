"""What can be asked of the core as one edit: a record each, which says what it needs and works out a label and a patch on a built design.

A new operation is a record here and its function in a module of its own; command line, API and interface read it from ``OPERATIONS``.
"""

from __future__ import annotations

from typing import Annotated, Literal, get_args

from pydantic import Field

from zygon.design import layout_operations as layout
from zygon.design import operations as document_operations
from zygon.design.drawers import place_drawer
from zygon.design.papers import AddedDimension, DetailSaid, PaperNote, SectionSaid, ViewSaid
from zygon.design.parts.bought import Solid
from zygon.design.parts.connector import Toward
from zygon.design.parts.kinds import is_turned
from zygon.design.patch import Patch
from zygon.design.pointer import pointer
from zygon.design.test_pieces import BendReading, KerfReading
from zygon.drawn.drawing import RelationKind
from zygon.edits import bend_strip, connectors, cut_tests, fittings, frames, moves, papers, placing, sliding, stocks
from zygon.edits.axles import place_axle, place_bore
from zygon.edits.bent_from_table import bent_from_table
from zygon.edits.cranks import add_crank
from zygon.edits.drawings import relate as drawn_relations
from zygon.edits.drawings.backdrop import BackdropHow, lay_backdrop, place_backdrop
from zygon.edits.drawings.begin import begin_outline
from zygon.edits.drawings.begin_path import begin_path
from zygon.edits.drawings.begin_profile import begin_profile
from zygon.edits.drawings.begin_section import begin_section
from zygon.edits.drawings.begin_turned import begin_half_profile
from zygon.edits.drawings.copies import beside, in_row, mirror_drawn
from zygon.edits.drawings.corners import ease_corner
from zygon.edits.drawings.draw import Press, Tool, draw
from zygon.edits.drawings.letters import letter_drawn
from zygon.edits.drawings.naming import name_drawn
from zygon.edits.drawings.pointing import point_drawn
from zygon.edits.drawings.trim import split_drawn, trim
from zygon.edits.drawn_lines import Spot, draw_line
from zygon.edits.end_plates import add_end_plate
from zygon.edits.flanges import mirror_wall, remove_flange
from zygon.edits.hanging import hang
from zygon.edits.hardware import put_hardware, screw_in_hole, take_list
from zygon.edits.holes_over import take_holes
from zygon.edits.independent import make_independent
from zygon.edits.let_through import let_through
from zygon.edits.outlines_in import FileShape, take_outlines
from zygon.edits.run_on import run_on
from zygon.edits.split import Hold, split_part
from zygon.errors import DocumentError
from zygon.geometry.frame import Plane
from zygon.limits import FARTHEST, MAX_PICTURE
from zygon.making.asked.questions import middle_of
from zygon.making.result.built import Built
from zygon.measure.entry import Entry, Record
from zygon.owner import is_of
from zygon.stock.fit import FitName, ShaftFitName
from zygon.stock.shelf import Shelf

__all__ = ["OPERATIONS", "AnyOperation", "Operation"]

Axis = Literal["x", "y", "z"]
Worked = tuple[str, Patch]
#: Along an axis, in mm.
Place = Annotated[float, Field(ge=-FARTHEST, le=FARTHEST, allow_inf_nan=False)]


class Operation(Record):
    """Base: lengths are in mm, angles in degrees."""

    def work(self, built: Built) -> Worked:
        """Label and patch on a built design. Raises DocumentError where it cannot be done."""
        raise NotImplementedError


class Rename(Operation):
    """Another name for a size, a part, a group, a movement or a handed copy ('COPY:PART'); every entry that names it follows."""

    operation: Literal["rename"]
    group: Literal["sizes", "parts", "groups", "frames", "moves", "handed"]
    key: str
    name: str

    def work(self, built: Built) -> Worked:
        return document_operations.rename(built.document, self.group, self.key, self.name)


class Repoint(Operation):
    """Every entry that names what is not there any more names something else."""

    operation: Literal["repoint"]
    key: str = Field(description="the lost name")
    name: str

    def work(self, built: Built) -> Worked:
        return document_operations.repoint(built.document, self.key, self.name)


class Freeze(Operation):
    """An entry's value in place of what it refers to."""

    operation: Literal["freeze"]
    entry: str = Field(description="its pointer")

    def work(self, built: Built) -> Worked:
        value = built.values.get(self.entry)
        if value is None or value.stale:
            rule = "an entry with a good value"
            raise DocumentError(f"{self.entry} has no value to freeze", entry=self.entry, value=self.entry, rule=rule, code="not_frozen")
        return document_operations.freeze(built.document, self.entry, value.value, value.kind)


class RemovePart(Operation):
    """A part goes, with its joints and its place in bores, groups and copies."""

    operation: Literal["remove_part"]
    key: str

    def work(self, built: Built) -> Worked:
        return document_operations.remove_part(built.document, self.key)


class RemoveSize(Operation):
    """A size goes."""

    operation: Literal["remove_size"]
    key: str

    def work(self, built: Built) -> Worked:
        return document_operations.remove_size(built.document, self.key)


class RemoveFlange(Operation):
    """A flange goes with all that stands on it and its corners; with the last one the part is a board again, or what was bought."""

    operation: Literal["remove_flange"]
    part: str
    key: str

    def work(self, built: Built) -> Worked:
        return remove_flange(built.document, self.part, self.key)


class MirrorWall(Operation):
    """The wall across the plate gets what a wall has: its cuts and what stands on it, or one of its cuts; or stands there too."""

    operation: Literal["mirror_wall"]
    part: str
    key: str
    feature: str = ""

    def work(self, built: Built) -> Worked:
        return mirror_wall(built.document, self.part, self.key, self.feature)


class Mirror(Operation):
    """Handed copies on the other side of a plane; in the middle of the design where no place is said."""

    operation: Literal["mirror"]
    of: list[str]
    axis: Axis = "x"
    text: str = Field(default="", description="where the plane is, an entry")
    unit: str = ""

    def work(self, built: Built) -> Worked:
        at = self.text or middle_of(built, self.of, self.axis)
        return layout.mirror(built.document, self.of, self.axis, at, self.unit)


class Group(Operation):
    """Parts in one group."""

    operation: Literal["group"]
    of: list[str]
    name: str

    def work(self, built: Built) -> Worked:
        return layout.group_parts(built.document, self.of, self.name)


class RemoveGroup(Operation):
    """A group is dissolved; its parts stay."""

    operation: Literal["remove_group"]
    key: str

    def work(self, built: Built) -> Worked:
        return layout.remove_group(built.document, self.key)


class RemoveCopy(Operation):
    """Copies go, with what names them."""

    operation: Literal["remove_copy"]
    key: str

    def work(self, built: Built) -> Worked:
        return layout.remove_copy(built.document, self.key)


class Independent(Operation):
    """A mirror image becomes parts of its own."""

    operation: Literal["independent"]
    key: str

    def work(self, built: Built) -> Worked:
        return make_independent(built, self.key)


class ChangeMany(Operation):
    """One entry that many have, changed in all of them."""

    operation: Literal["change_many"]
    of: list[str]
    field: str
    text: str
    unit: str = Field(default="", description="of a bare number; the design's where not said")

    def work(self, built: Built) -> Worked:
        return layout.change_many(built.document, self.of, self.field, self.text, self.unit or built.document.unit)


class Comb(Operation):
    """A comb that tries a row of fits."""

    operation: Literal["comb"]
    stock: str
    cutter: str
    start: float = -0.2
    step: float = 0.1
    number: int = 9

    def work(self, built: Built) -> Worked:
        return cut_tests.add_comb(built, self.stock, self.cutter, self.start, self.step, self.number)


class RoundComb(Operation):
    """A comb of round holes that tries how a shaft lies in a stock."""

    operation: Literal["round_comb"]
    stock: str
    cutter: str
    shaft: str = Field(description="a round bar by its key")
    start: float = -0.1
    step: float = 0.05
    number: int = 9

    def work(self, built: Built) -> Worked:
        return cut_tests.add_round_comb(built, self.stock, self.cutter, self.shaft, self.start, self.step, self.number)


class FitsFromRoundComb(Operation):
    """How a shaft was found to lie in the holes of a comb."""

    operation: Literal["fits_from_round_comb"]
    key: str
    values: dict[ShaftFitName, float]

    def work(self, built: Built) -> Worked:
        return cut_tests.fits_from_round_comb(built.document, self.key, self.values)


class KerfTest(Operation):
    """A row of squares in a frame that tells the kerf."""

    operation: Literal["kerf_test"]
    stock: str
    cutter: str
    squares: int = 8
    side: float = 20.0
    play: float = 1.0

    def work(self, built: Built) -> Worked:
        return cut_tests.add_kerf_test(built, self.stock, self.cutter, self.squares, self.side, self.play)


class FitsFromComb(Operation):
    """The fits that a comb's slots were found to be."""

    operation: Literal["fits_from_comb"]
    key: str
    values: dict[FitName, float]

    def work(self, built: Built) -> Worked:
        return cut_tests.fits_from_comb(built.document, self.key, self.values)


class KerfFromSlack(Operation, KerfReading):
    """The kerf by the gap that the squares leave."""

    operation: Literal["kerf_from_slack"]
    key: str

    def work(self, built: Built) -> Worked:
        return cut_tests.kerf_from_slack(built.document, self.key, self.slack)


class RemoveTest(Operation):
    """A test's pieces go."""

    operation: Literal["remove_test"]
    key: str

    def work(self, built: Built) -> Worked:
        return cut_tests.remove_test(built.document, self.key)


class BendTest(Operation):
    """A strip with a bend line in its middle; bent to the stock's own radius where none is said."""

    operation: Literal["bend_test"]
    stock: str
    cutter: str
    radius: float | None = None
    angle: float = 90.0
    length: float = 100.0

    def work(self, built: Built) -> Worked:
        own = built.values.get(pointer("stocks", self.stock, "bending", "radius"))
        radius = self.radius if self.radius is not None else own.value if own else 1.5
        return bend_strip.add_bend_test(built, self.stock, self.cutter, radius, self.angle, self.length)


class BendFromLegs(Operation, BendReading):
    """K and deduction by both legs of a bent strip, measured outside; ``radius`` where another one came out."""

    operation: Literal["bend_from_legs"]
    key: str

    def work(self, built: Built) -> Worked:
        return bend_strip.bend_from_legs(built, self.key, self.first, self.second, self.radius)


class Split(Operation):
    """Two parts of a folded one, with an overlap and what holds them together."""

    operation: Literal["split"]
    key: str
    axis: Axis = "x"
    at: float
    hold: Hold = "rivets"
    overlap: float = 16.0
    diameter: float = 3.2
    number: int = 4

    def work(self, built: Built) -> Worked:
        own = {"overlap": self.overlap, "diameter": self.diameter}
        return split_part(built, self.key, self.axis, self.at, hold=self.hold, number=self.number, **own)


class PlaceBoard(Operation):
    """A board between places, or several of them evenly; all places are entries."""

    operation: Literal["place_board"]
    stock: str
    plane: Plane
    spans: dict[Axis, tuple[str, str]] = Field(description="along both axes of its plane, from where to where")
    face: str = Field(description="by which it is placed along its thickness: a word, or centre")
    at: str
    number: int = 1
    between: tuple[str, str] | None = Field(default=None, description="where several stand evenly along their thickness")
    pair: bool = Field(default=False, description="and its mirror image as far from the other of the two places")

    def work(self, built: Built) -> Worked:
        spans: dict[str, tuple[str, str]] = {str(a): ends for a, ends in self.spans.items()}
        return placing.place_board(
            built, self.stock, self.plane, spans, self.face, self.at, number=self.number, between=self.between, pair=self.pair
        )


class SlidingPanel(Operation):
    """A panel in grooves of three walls that comes out through the fourth; places are entries."""

    operation: Literal["sliding_panel"]
    stock: str
    plane: Plane
    spans: dict[Axis, tuple[str, str]]
    face: str
    at: str
    out: str = Field(description="the end at which it comes out: a word, as left")
    walls: dict[str, str] = Field(description="the parts that it ends at, by the word of its end")
    play: str = Field(default="", description="room all round; what is usual where not said")

    def work(self, built: Built) -> Worked:
        spans: dict[str, tuple[str, str]] = {str(a): ends for a, ends in self.spans.items()}
        return sliding.sliding_panel(built, self.stock, self.plane, spans, self.face, self.at, self.out, self.walls, play=self.play)


class PlaceDrawer(Operation):
    """A drawer that fills a room, or several one above the other; places are entries."""

    operation: Literal["place_drawer"]
    stock: str
    bottom: str = Field(description="the sheet stock of its bottom")
    room: dict[Axis, tuple[str, str]]
    out: str = Field(description="the end at which it is drawn out")
    number: int = 1
    play: str = Field(default="", description="room all round; what is usual where not said")
    corners: str = "finger"

    def work(self, built: Built) -> Worked:
        room: dict[str, tuple[str, str]] = {str(a): placing.comparable(built, a, ends) for a, ends in self.room.items()}
        return place_drawer(
            built.document, self.stock, self.bottom, room, self.out, number=self.number, play=self.play, corners=self.corners
        )


class PlaceAxle(Operation):
    """A rod square to a face at a point of it (mm), through every board that lies across."""

    operation: Literal["place_axle"]
    stock: str
    part: str
    face: str
    at: tuple[Place, Place, Place]
    catch: float = Field(default=0.0, ge=0, le=FARTHEST, description="within which it lies in the middle")
    step: float = Field(default=1.0, ge=0.001, le=FARTHEST)

    def work(self, built: Built) -> Worked:
        return place_axle(built, self.stock, self.part, self.face, self.at, catch=self.catch, step=self.step)


class AddCrank(Operation):
    """A crank with its handle on the end of a rod."""

    operation: Literal["add_crank"]
    rod: str
    end: Literal["a", "b"]
    stock: str
    handle: str = Field(description="a round bar by its key")
    throw: str = Field(min_length=1, max_length=200, description="an entry: how far off the rod the handle is")

    def work(self, built: Built) -> Worked:
        return add_crank(built, self.rod, self.end, self.stock, self.handle, self.throw)


class PlaceBore(Operation):
    """A bore square to a face at a point of it (mm), through all that lies in its way."""

    operation: Literal["place_bore"]
    part: str
    face: str
    at: tuple[Place, Place, Place]
    catch: float = Field(default=0.0, ge=0, le=FARTHEST, description="within which it lies in the middle")
    step: float = Field(default=1.0, ge=0.001, le=FARTHEST)
    screw: bool = Field(default=False, description="with the usual set along it, its head on the face")

    def work(self, built: Built) -> Worked:
        return place_bore(built, self.part, self.face, self.at, catch=self.catch, step=self.step, screw=self.screw)


class PutHardware(Operation):
    """A set along a bore: the usual one, or one with a piece of the catalogue in it."""

    operation: Literal["put_hardware"]
    bore: str
    designation: str = Field(default="", max_length=60, description="of the piece, as its standard writes it; '' for what is usual")

    def work(self, built: Built) -> Worked:
        return put_hardware(built, self.bore, self.designation)


class Hang(Operation):
    """A part hangs on another by hinges, or runs on it by a slide, of the catalogue, with their screws."""

    operation: Literal["hang"]
    designation: str = Field(max_length=60)
    part: str = Field(description="what moves, by part key")
    on: str = Field(description="what it hangs on")
    number: int = Field(default=2, ge=1, le=12, description="how many hinges, evenly")
    way: str = Field(default="", max_length=300, description="the words of one of the ways in which it fits; the usual one where not said")

    def work(self, built: Built) -> Worked:
        return hang(built, self.designation, self.part, self.on, self.number, self.way)


class StandOn(Operation):
    """A piece of hardware stands on a pressed face: a foot on it, a magnet or a bearing let in."""

    operation: Literal["stand_on"]
    designation: str = Field(max_length=60)
    part: str
    face: str
    at: tuple[float, float, float] = Field(description="a point of the face in the room, mm")

    def work(self, built: Built) -> Worked:
        return fittings.stand_on(built, self.designation, self.part, self.face, self.at)


class ReplaceShape(Operation):
    """A part that was read from a file has the shape of a newer one; what lies where it lay keeps its name."""

    operation: Literal["replace_shape"]
    part: str
    shape: Solid

    def work(self, built: Built) -> Worked:
        return fittings.replace_shape(built, self.part, self.shape)


class TakeHoles(Operation):
    """The holes of a piece of hardware go on into what it lies on, with the usual screws."""

    operation: Literal["take_holes"]
    part: str

    def work(self, built: Built) -> Worked:
        return take_holes(built, self.part)


class TakeList(Operation):
    """The prices of a shop's list of hardware (CSV text with headings), and the pieces of it that are in no catalogue."""

    operation: Literal["take_list"]
    text: str = Field(max_length=200_000)

    def work(self, built: Built) -> Worked:
        return take_list(built.document, self.text)


class ScrewInHole(Operation):
    """A round hole becomes a bore in its place, through what lies against its board, with the usual set along it."""

    operation: Literal["screw_in_hole"]
    part: str
    feature: str

    def work(self, built: Built) -> Worked:
        return screw_in_hole(built, self.part, self.feature)


class JoinAll(Operation):
    """Boards are joined in pairs (one, the other, the kind of joint)."""

    operation: Literal["join_all"]
    pairs: list[tuple[str, str, str]]

    def work(self, built: Built) -> Worked:
        return placing.join_all(built, self.pairs)


class AddFrame(Operation):
    """A frame of tubes or bars to begin with: its outside lies between places along x, y and z, which are entries."""

    operation: Literal["add_frame"]
    kind: Literal["box", "portal", "ladder", "sawhorse"]
    stock: str
    places: dict[Axis, tuple[str, str]]
    count: int = Field(default=0, description="how many rungs")
    name: str = ""
    ends: Literal["cut", "connectors"] = Field(
        default="cut", description="connectors: the members lie by their middles, with connectors where they meet"
    )

    def work(self, built: Built) -> Worked:
        places: dict[str, tuple[str, str]] = {str(a): ends for a, ends in self.places.items()}
        return frames.add_frame(built, self.kind, self.stock, places, count=self.count, name=self.name, ends=self.ends)


class SpotIn(Record):
    """Where a line begins or ends: 'FRAME:POINT', 'FRAME:LINE' with how far from its start, or a place in the room (mm), on a part."""

    point: str = ""
    line: str = ""
    off: float = Field(default=0.0, ge=-FARTHEST, le=FARTHEST)
    at: tuple[Place, Place, Place] | None = None
    part: str = ""
    owner: str = Field(default="", max_length=200, description="the bore or the feature whose hole was pressed: its middle is meant")

    @property
    def spot(self) -> Spot:
        """The same as the core takes it."""
        return Spot(self.point, self.line, self.at, self.off, self.part, self.owner)


class DrawLine(Operation):
    """A line of a frame from one place to another, and with a bar stock a member on it."""

    operation: Literal["draw_line"]
    start: SpotIn
    end: SpotIn = SpotIn()
    stock: str = ""
    axis: Axis | Literal[""] = Field(default="", description="along which it runs, where it is drawn by a length")
    by: str = Field(default="", description="that length, an entry")
    catch: float = Field(default=0.0, ge=0, le=FARTHEST, description="within which it is level with what is there")
    step: float = Field(default=1.0, ge=0.001, le=FARTHEST)
    clear: str = Field(default="", max_length=200, description="what it keeps of the faces that are pressed, an entry")

    def work(self, built: Built) -> Worked:
        return draw_line(
            built,
            self.start.spot,
            self.end.spot,
            self.stock,
            axis=self.axis,
            by=self.by,
            catch=self.catch,
            step=self.step,
            clear=self.clear,
        )


class AddConnectors(Operation):
    """Connectors on points of a frame, on all where members meet where none is named; of a shape of the catalogue, 'measured', or '' for what fits."""

    operation: Literal["add_connectors"]
    frame: str
    points: list[str] = Field(default_factory=list, max_length=400)
    shape: str = ""
    depth: str = Field(default="", description="how deep its sockets are, an entry; 30 mm where not said")

    def work(self, built: Built) -> Worked:
        return connectors.add_connectors(built, self.frame, self.points, self.shape, self.depth)


class LetThrough(Operation):
    """Boards that a member passes are cut round it."""

    operation: Literal["let_through"]
    member: str

    def work(self, built: Built) -> Worked:
        return let_through(built, self.member)


class JoinMembers(Operation):
    """Members are joined where they meet, each pair as is usual there; all of the design where none is named."""

    operation: Literal["join_members"]
    of: list[str] = Field(max_length=2000)
    corner: Literal["", "mitre", "butt"] = ""

    def work(self, built: Built) -> Worked:
        return frames.join_members(built, self.of, self.corner)


class AddEndPlate(Operation):
    """A plate goes on an end of a member, which gives way by its thickness."""

    operation: Literal["add_end_plate"]
    member: str
    end: Literal["a", "b"]
    stock: str
    beside: str = Field(max_length=200, description="so far it reaches past the member all round, an entry")
    hole: str = Field(default="", max_length=200, description="diameter of its four holes, an entry; '' for none")

    def work(self, built: Built) -> Worked:
        return add_end_plate(built, self.member, self.end, self.stock, self.beside, self.hole)


class RunOn(Operation):
    """A member runs on to the far side of what ends with it at one of its ends, and that lies on it."""

    operation: Literal["run_on"]
    member: str
    end: Literal["a", "b"]

    def work(self, built: Built) -> Worked:
        return run_on(built, self.member, self.end)


class BendMembers(Operation):
    """Members whose lines follow one another become one that is bent."""

    operation: Literal["bend_members"]
    of: list[str] = Field(max_length=50)
    radius: str = Field(default="", description="of the centre line, an entry; twice its thickness where not said")

    def work(self, built: Built) -> Worked:
        return frames.bend_members(built, self.of, self.radius)


class BentRow(Record):
    """A row of the bender's table: what is straight before the bend, how far the bar is turned about itself since the last one, and the bend; entries."""

    straight: str = Field(default="0", max_length=200)
    turn: str = Field(default="0", max_length=200)
    bend: str = Field(max_length=200)


class BentFromTable(Operation):
    """A bar that is bent by a table, on a frame of its own."""

    operation: Literal["bent_from_table"]
    stock: str
    rows: list[BentRow] = Field(max_length=49)
    end: str = Field(default="0", max_length=200, description="what is straight after the last bend, an entry")
    radius: str = Field(max_length=200, description="of the centre line, an entry")
    start: dict[Axis, str] = Field(default_factory=dict, description="where it begins along x, y and z, entries; 0 where not said")
    way: Toward = "right"
    toward: Toward = Field(default="up", description="where its first bend goes if it is not turned")
    name: str = Field(default="", max_length=40)

    def work(self, built: Built) -> Worked:
        rows = [(r.straight, r.turn, r.bend) for r in self.rows]
        return bent_from_table(
            built,
            self.stock,
            rows,
            self.end,
            self.radius,
            {str(a): text for a, text in self.start.items()},
            way=self.way,
            toward=self.toward,
            name=self.name,
        )


class BeginOutline(Operation):
    """A part's outline, a turned part's half-profile, a bar's section by its stock's id or a frame's path by its id becomes a drawing as it is, with the relations that are seen in it."""

    operation: Literal["begin_outline"]
    part: str

    def work(self, built: Built) -> Worked:
        if is_of(self.part, "stock", "frame"):
            return (begin_section if is_of(self.part, "stock") else begin_path)(built, self.part)
        turned = is_turned(built.document.parts.get(self.part))
        return (begin_half_profile if turned else begin_outline)(built, self.part)


class BeginProfile(Operation):
    """A profile is drawn square to an edge of a plate of metal, or in place of a flange as that is."""

    operation: Literal["begin_profile"]
    part: str
    edge: str = Field(default="", max_length=40, description="of the plate, where a new one is drawn")
    flange: str = Field(default="", max_length=40, description="key of the flange that is drawn freely from now on")
    toward: Literal["a", "b"] = Field(default="a", description="the face to which a new one begins")

    def work(self, built: Built) -> Worked:
        return begin_profile(built, self.part, self.edge, self.flange, self.toward)


class NameDrawn(Operation):
    """A line of a drawing gets a name, by which entries and edges call it; those that named it before follow."""

    operation: Literal["name_drawn"]
    part: str
    feature: str = ""
    curve: str
    name: str = Field(max_length=40)

    def work(self, built: Built) -> Worked:
        return name_drawn(built, self.part, self.feature, self.curve, self.name)


class TakeOutlines(Operation):
    """Outlines of a file are taken over: the first by a part, more of them by new parts like it, laid out as they lie in the file."""

    operation: Literal["take_outlines"]
    part: str
    shapes: list[FileShape] = Field(min_length=1, max_length=200)

    def work(self, built: Built) -> Worked:
        return take_outlines(built.document, self.part, self.shapes)


class OnDrawing(Operation):
    """Base of what is done on a drawing: a part's outline, or one of its shapes."""

    part: str
    feature: str = Field(default="", description="key of a shape, id of a drawn profile; '' for the outline")


class Draw(OnDrawing):
    """Lines, arcs and what is made of them, by pressed places (mm in the part's own plane); what is seen while they are drawn is kept."""

    operation: Literal["draw"]
    tool: Tool
    presses: list[Press] = Field(min_length=1, max_length=200)
    figures: dict[str, Entry] = Field(default_factory=dict, max_length=4, description="typed while drawing, by name")
    helping: bool = False
    sides: int = Field(default=6, ge=3, le=60)
    turns: Literal["left", "right"] = "left"
    text: str = Field(default="", max_length=60, description="of a text")

    def work(self, built: Built) -> Worked:
        return draw(
            built,
            self.part,
            self.feature,
            self.tool,
            self.presses,
            figures=self.figures,
            helping=self.helping,
            sides=self.sides,
            turns=self.turns,
            text=self.text,
        )


class RelateDrawn(OnDrawing):
    """A relation between things of a drawing, by their keys or by what may be referred to; a dimension without a figure is what it measures."""

    operation: Literal["relate_drawn"]
    kind: RelationKind
    of: list[str] = Field(min_length=1, max_length=40)
    entry: Entry | None = None

    def work(self, built: Built) -> Worked:
        return drawn_relations.relate(built, self.part, self.feature, self.kind, self.of, self.entry)


class HoldDrawn(OnDrawing):
    """A relation holds, is only measured, or is left out."""

    operation: Literal["hold_drawn"]
    key: str
    how: Literal["hold", "measure", "leave out"]

    def work(self, built: Built) -> Worked:
        return drawn_relations.hold(built, self.part, self.feature, self.key, self.how)


class LetterDrawn(OnDrawing):
    """A text of a drawing is said otherwise; what is not given stays."""

    operation: Literal["letter_drawn"]
    curve: str
    text: str | None = Field(default=None, max_length=60)
    height: Entry | None = Field(default=None, description="of its capitals")
    turned: Entry | None = Field(default=None, description="counter-clockwise")
    font: Literal["sans", "mono"] | None = None

    def work(self, built: Built) -> Worked:
        return letter_drawn(built, self.part, self.feature, self.curve, self.text, self.height, self.turned, self.font)


class PointDrawn(OnDrawing):
    """What a drawing refers to is another thing from now on, for all that is said of it; or stays where it lies."""

    operation: Literal["point_drawn"]
    reference: str
    to: str = Field(default="", max_length=260, description="id of what may be referred to; '' to let it stay")

    def work(self, built: Built) -> Worked:
        return point_drawn(built, self.part, self.feature, self.reference, self.to)


class SizeOfDrawn(OnDrawing):
    """A dimension that is only measured becomes a size, which entries can name."""

    operation: Literal["size_of_drawn"]
    key: str

    def work(self, built: Built) -> Worked:
        return drawn_relations.as_size(built, self.part, self.feature, self.key)


class EraseDrawn(OnDrawing):
    """Things of a drawing go, with what hangs on them."""

    operation: Literal["erase_drawn"]
    keys: list[str] = Field(min_length=1, max_length=1000)

    def work(self, built: Built) -> Worked:
        return drawn_relations.erase(built, self.part, self.feature, self.keys)


class DragDrawn(OnDrawing):
    """Points are dragged to places, as near as what is asked lets them; circles to radii (mm)."""

    operation: Literal["drag_drawn"]
    to: dict[str, tuple[Place, Place]] = Field(max_length=1000)
    radii: dict[str, Place] = Field(default_factory=dict, max_length=100)
    start: dict[str, tuple[Place, Place]] = Field(default_factory=dict, max_length=1000, description="where a hand has led points already")

    def work(self, built: Built) -> Worked:
        return drawn_relations.drag(built, self.part, self.feature, self.to, self.radii, self.start)


class FindRelations(OnDrawing):
    """The relations that a drawing nearly has are kept."""

    operation: Literal["find_relations"]
    within: float = Field(gt=0, le=5, description="mm")

    def work(self, built: Built) -> Worked:
        return drawn_relations.find(built, self.part, self.feature, self.within)


class EaseCorner(OnDrawing):
    """Corners where two lines meet are rounded by a radius, or cut off by a length along both."""

    operation: Literal["ease_corner"]
    points: list[str] = Field(min_length=1, max_length=100)
    how: Literal["round", "cut"]
    size: Entry

    def work(self, built: Built) -> Worked:
        return ease_corner(built, self.part, self.feature, self.points, self.how, self.size)


class TrimDrawn(OnDrawing):
    """The piece of a line round a place goes, as far as what crosses it; or the line is split there."""

    operation: Literal["trim_drawn"]
    curve: str
    at: tuple[Place, Place]
    split: bool = False

    def work(self, built: Built) -> Worked:
        return (split_drawn if self.split else trim)(built, self.part, self.feature, self.curve, self.at)


class MirrorDrawn(OnDrawing):
    """Lines and arcs once more, mirrored about a line; the images follow."""

    operation: Literal["mirror_drawn"]
    curves: list[str] = Field(min_length=1, max_length=500)
    about: str

    def work(self, built: Built) -> Worked:
        return mirror_drawn(built, self.part, self.feature, self.curves, self.about)


class RowDrawn(OnDrawing):
    """Lines and arcs in a row, each so far across and up from the one before."""

    operation: Literal["row_drawn"]
    curves: list[str] = Field(min_length=1, max_length=500)
    number: int = Field(ge=2, le=100)
    across: Entry = Entry(text="0")
    up: Entry = Entry(text="0")

    def work(self, built: Built) -> Worked:
        return in_row(built, self.part, self.feature, self.curves, self.number, self.across, self.up)


class BesideDrawn(OnDrawing):
    """Lines and arcs at a distance beside others; to the left or the right of the way in which the first is drawn."""

    operation: Literal["beside_drawn"]
    curves: list[str] = Field(min_length=1, max_length=500)
    by: Entry
    side: Literal["left", "right"]

    def work(self, built: Built) -> Worked:
        return beside(built, self.part, self.feature, self.curves, self.by, self.side)


class LayBackdrop(OnDrawing):
    """A picture that was read is laid behind a drawing, to be traced."""

    operation: Literal["lay_backdrop"]
    picture: str = Field(pattern=r"^[0-9a-f]{64}$")
    name: str = Field(default="", max_length=120)
    wide: int = Field(ge=1, le=MAX_PICTURE)
    high: int = Field(ge=1, le=MAX_PICTURE)
    scale: float | None = Field(default=None, gt=0, le=1000, description="mm a pixel; as large as the part where not said")

    def work(self, built: Built) -> Worked:
        return lay_backdrop(built, self.part, self.feature, self.picture, self.name, self.wide, self.high, self.scale)


class PlaceBackdrop(OnDrawing):
    """The picture behind a drawing is laid anew by two places on it (mm in the part's own plane)."""

    operation: Literal["place_backdrop"]
    how: BackdropHow
    a: tuple[Place, Place] = (0.0, 0.0)
    b: tuple[Place, Place] = (0.0, 0.0)
    length: Entry | None = Field(default=None, description="how far apart they are, to scale by")

    def work(self, built: Built) -> Worked:
        return place_backdrop(built, self.part, self.feature, self.how, self.a, self.b, self.length)


class RemoveLine(Operation):
    """A line of a frame goes, with what lies on it."""

    operation: Literal["remove_line"]
    frame: str
    line: str

    def work(self, built: Built) -> Worked:
        return frames.remove_line(built.document, self.frame, self.line)


class RemoveFrame(Operation):
    """A frame goes, with its members."""

    operation: Literal["remove_frame"]
    key: str

    def work(self, built: Built) -> Worked:
        return frames.remove_frame(built.document, self.key)


class TakeStock(Operation):
    """A stock of the shelf goes into the design, with the fits, speeds and brake that belong to it."""

    operation: Literal["take_stock"]
    key: str
    shelf: Shelf

    def work(self, built: Built) -> Worked:
        return stocks.take_stock(built.document, self.key, self.shelf)


class AddBars(Operation):
    """Bars of a list (CSV text with headings) become stocks of the design."""

    operation: Literal["add_bars"]
    text: str = Field(max_length=200_000)

    def work(self, built: Built) -> Worked:
        return stocks.add_bars(built.document, self.text)


class RemoveStock(Operation):
    """A stock of which nothing is made goes, with its fits and speeds."""

    operation: Literal["remove_stock"]
    key: str

    def work(self, built: Built) -> Worked:
        return stocks.remove_stock(built.document, self.key)


class SayMove(Operation):
    """Something that is said of a movement, or no longer."""

    operation: Literal["say_move"]
    movement: str = Field(description="its key as it was found: 'turns:PIECE'")
    field: moves.Field
    text: str | None = Field(default=None, max_length=200, description="an entry; nothing more is said of it where none")

    def work(self, built: Built) -> Worked:
        entry = None if self.text is None else Entry(text=self.text, unit=built.document.unit)
        return moves.say_move(built, self.movement, self.field, entry)


class ForgetMove(Operation):
    """What is said of a movement, with what hangs on it."""

    operation: Literal["forget_move"]
    key: str

    def work(self, built: Built) -> Worked:
        return moves.forget_move(built, self.key)


class CoupleMoves(Operation):
    """A movement that follows another one, or by itself again."""

    operation: Literal["couple_moves"]
    movement: str
    follows: str | None = None
    ratio: str = Field(default="1", max_length=200, description="an entry: degrees or mm for each of the other's")

    def work(self, built: Built) -> Worked:
        return moves.couple_moves(built, self.movement, self.follows, Entry(text=self.ratio, unit=built.document.unit))


class StandStill(Operation):
    """What stands still, by a part of it; what bears the rest where none is said."""

    operation: Literal["stand_still"]
    part: str = Field(description="its instance key; '' for what bears the rest")

    def work(self, built: Built) -> Worked:
        return moves.stand_still(built, self.part)


class TieParts(Operation):
    """Two parts that are one thing, or free of one another, or as they are found."""

    operation: Literal["tie_parts"]
    a: str
    b: str
    how: Literal["held", "free", "as found"]

    def work(self, built: Built) -> Worked:
        return moves.tie_parts(built, self.a, self.b, self.how)


class KeepPosition(Operation):
    """How far movements are moved (radians or mm, by their keys), under a name."""

    operation: Literal["keep_position"]
    name: str = Field(max_length=40)
    at: dict[str, Place]

    def work(self, built: Built) -> Worked:
        return moves.keep_position(built, self.name, self.at)


class SaySheet(Operation):
    """A field of a sheet of the papers; as the set has it where no value is given."""

    operation: Literal["say_sheet"]
    subject: str = Field(min_length=1, max_length=300)
    field: papers.SheetField
    value: bool | str | None = None

    def work(self, built: Built) -> Worked:
        return papers.say_sheet(built.document, self.subject, self.field, self.value)


class MoveOnPaper(Operation):
    """Something on a sheet moved by so much more: a dimension by its name, or a balloon, table, view or note."""

    operation: Literal["move_on_paper"]
    subject: str = Field(min_length=1, max_length=300)
    name: str = Field(min_length=1, max_length=300)
    x: float = Field(ge=-2000, le=2000, description="mm on the paper, to the right")
    y: float = Field(ge=-2000, le=2000, description="mm on the paper, upward")

    def work(self, built: Built) -> Worked:
        return papers.move_on_paper(built.document, self.subject, self.name, self.x, self.y)


class ShowDimension(Operation):
    """A dimension left out of a sheet, or put in again."""

    operation: Literal["show_dimension"]
    subject: str = Field(min_length=1, max_length=300)
    name: str = Field(min_length=1, max_length=300)
    shown: bool

    def work(self, built: Built) -> Worked:
        return papers.show_dimension(built.document, self.subject, self.name, shown=self.shown)


class SayDimension(Operation):
    """Words before and after a dimension's figure, its tolerance, both units."""

    operation: Literal["say_dimension"]
    subject: str = Field(min_length=1, max_length=300)
    name: str = Field(min_length=1, max_length=300)
    before: str = Field(default="", max_length=40)
    after: str = Field(default="", max_length=80)
    tolerance: str = Field(default="", max_length=20)
    both: bool = False

    def work(self, built: Built) -> Worked:
        words = {"before": self.before, "after": self.after, "tolerance": self.tolerance, "both": self.both}
        return papers.say_dimension(built.document, self.subject, self.name, words)


class AddDimension(Operation):
    """A dimension put in by hand, between two anchors of a view."""

    operation: Literal["add_dimension"]
    subject: str = Field(min_length=1, max_length=300)
    dimension: AddedDimension

    def work(self, built: Built) -> Worked:
        return papers.add_dimension(built.document, self.subject, self.dimension)


class AddNote(Operation):
    """A note on a sheet."""

    operation: Literal["add_note"]
    subject: str = Field(min_length=1, max_length=300)
    note: PaperNote

    def work(self, built: Built) -> Worked:
        return papers.add_note(built.document, self.subject, self.note)


class AddSection(Operation):
    """A section on a sheet."""

    operation: Literal["add_section"]
    subject: str = Field(min_length=1, max_length=300)
    section: SectionSaid

    def work(self, built: Built) -> Worked:
        return papers.add_section(built.document, self.subject, self.section)


class AddView(Operation):
    """A view on a sheet."""

    operation: Literal["add_view"]
    subject: str = Field(min_length=1, max_length=300)
    view: ViewSaid

    def work(self, built: Built) -> Worked:
        return papers.add_view(built.document, self.subject, self.view)


class AddDetail(Operation):
    """What lies round a place of a view, drawn larger."""

    operation: Literal["add_detail"]
    subject: str = Field(min_length=1, max_length=300)
    detail: DetailSaid

    def work(self, built: Built) -> Worked:
        return papers.add_detail(built.document, self.subject, self.detail)


class ShowView(Operation):
    """One of a sheet's own views left out, or put in again."""

    operation: Literal["show_view"]
    subject: str = Field(min_length=1, max_length=300)
    name: str = Field(min_length=1, max_length=300)
    shown: bool

    def work(self, built: Built) -> Worked:
        return papers.show_view(built.document, self.subject, self.name, shown=self.shown)


class ChooseColumns(Operation):
    """Which columns a table on a sheet has, in order; none for its own."""

    operation: Literal["choose_columns"]
    subject: str = Field(min_length=1, max_length=300)
    table: str = Field(min_length=1, max_length=300)
    columns: list[str] = Field(max_length=20)

    def work(self, built: Built) -> Worked:
        return papers.choose_columns(built.document, self.subject, self.table, self.columns)


class AddSheet(Operation):
    """A sheet put into the set, with views on it."""

    operation: Literal["add_sheet"]
    called: str = Field(max_length=80)
    views: list[ViewSaid] = Field(default_factory=list, max_length=12)

    def work(self, built: Built) -> Worked:
        return papers.add_sheet(built.document, self.called, self.views)


class RemoveSheet(Operation):
    """A sheet that was put in by hand taken out of the set."""

    operation: Literal["remove_sheet"]
    key: str = Field(min_length=1, max_length=80)

    def work(self, built: Built) -> Worked:
        return papers.remove_sheet(built.document, self.key)


class RemoveFromPaper(Operation):
    """What was put on a sheet by hand taken away: 'note/KEY', 'section/KEY', 'view/KEY', 'detail/KEY' or 'added/KEY'."""

    operation: Literal["remove_from_paper"]
    subject: str = Field(min_length=1, max_length=300)
    name: str = Field(min_length=1, max_length=300)

    def work(self, built: Built) -> Worked:
        return papers.remove_from_paper(built.document, self.subject, self.name)


class ClearSheet(Operation):
    """All that is said of a sheet forgotten."""

    operation: Literal["clear_sheet"]
    subject: str = Field(min_length=1, max_length=300)

    def work(self, built: Built) -> Worked:
        return papers.clear_sheet(built.document, self.subject)


AnyOperation = Annotated[
    Rename
    | Repoint
    | Freeze
    | RemovePart
    | RemoveSize
    | RemoveFlange
    | MirrorWall
    | Mirror
    | Group
    | RemoveGroup
    | RemoveCopy
    | Independent
    | ChangeMany
    | Comb
    | RoundComb
    | FitsFromRoundComb
    | KerfTest
    | FitsFromComb
    | KerfFromSlack
    | RemoveTest
    | BendTest
    | BendFromLegs
    | Split
    | TakeStock
    | AddBars
    | RemoveStock
    | PlaceBoard
    | SlidingPanel
    | PlaceDrawer
    | PlaceAxle
    | PlaceBore
    | AddCrank
    | PutHardware
    | ScrewInHole
    | TakeList
    | Hang
    | StandOn
    | TakeHoles
    | ReplaceShape
    | JoinAll
    | AddFrame
    | DrawLine
    | AddConnectors
    | LetThrough
    | JoinMembers
    | AddEndPlate
    | RunOn
    | BendMembers
    | BentFromTable
    | SayMove
    | ForgetMove
    | CoupleMoves
    | StandStill
    | TieParts
    | KeepPosition
    | BeginOutline
    | BeginProfile
    | Draw
    | RelateDrawn
    | HoldDrawn
    | EraseDrawn
    | DragDrawn
    | FindRelations
    | EaseCorner
    | TrimDrawn
    | MirrorDrawn
    | RowDrawn
    | BesideDrawn
    | NameDrawn
    | PointDrawn
    | SizeOfDrawn
    | LetterDrawn
    | TakeOutlines
    | LayBackdrop
    | PlaceBackdrop
    | SaySheet
    | MoveOnPaper
    | ShowDimension
    | SayDimension
    | AddDimension
    | AddNote
    | AddSection
    | AddView
    | AddDetail
    | ShowView
    | ChooseColumns
    | AddSheet
    | RemoveSheet
    | RemoveFromPaper
    | ClearSheet
    | RemoveLine
    | RemoveFrame,
    Field(discriminator="operation"),
]

#: The record of each operation.
OPERATIONS: dict[str, type[Operation]] = {
    get_args(r.model_fields["operation"].annotation)[0]: r for r in get_args(get_args(AnyOperation)[0])
}
