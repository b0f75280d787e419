"""What names mean in an entry: sizes, faces and centres of parts, fits, gauges."""

from __future__ import annotations

from typing import TYPE_CHECKING

import numpy as np

from zygon.design.document import mirrored_axes, scope_of
from zygon.design.outlines import gear_of
from zygon.geometry.frame import AXES, FACES, across
from zygon.geometry.motion import IDENTITY, Motion
from zygon.making.datums.graph import FACE_SIDES
from zygon.making.datums.ids import moved_to
from zygon.making.datums.placing import handed_motion, motion_between, motion_between_groups
from zygon.measure.evaluate import NoScope, UnknownName, evaluate
from zygon.measure.quantity import Quantity, count, length, number
from zygon.measure.quantity import angle as angle_of
from zygon.owner import is_of, part_id, read_owner, size_id
from zygon.stock.fit import FIT_NAMES, SHAFT_FITS, ShaftFits
from zygon.stock.gauge import gauge_thickness
from zygon.tolerance import EPS, SEEN

if TYPE_CHECKING:
    from zygon.making.datums.values import Values

__all__ = ["EntryScope", "GaugeScope"]

_MAKE = {"length": length, "angle": angle_of, "count": lambda v: count(round(v)), "number": number}


class _Unplaced(KeyError):
    """Why a face has no place along an axis; the sentence's end."""

    def __str__(self) -> str:
        return str(self.args[0])


class GaugeScope(NoScope):
    """A scope of gauge numbers alone, for a stock's own thickness."""

    def __init__(self, system, name: str) -> None:
        self.system, self.name = system, name

    def gauge(self, number: float) -> float:
        return gauge_thickness(self.system, number, self.name)


class EntryScope:
    """Sizes, faces, the stock's gauges and its fits, as entries of parts, joints and features see them; ``axis`` is the one asked for.

    Faces are read as seen from within ``group`` ('' the room), those of ``own`` ('part:KEY' or 'group:KEY') as they are at rest; or from
    a frame that is given whole. ``drawn`` is the part whose drawing says how far ``drawn`` is along the axis. ``shaft`` is the stock of what lies in the hole that an entry is a fit of, '' for none.
    """

    def __init__(
        self,
        values: Values,
        axis: str = "",
        stock: str = "",
        group: str = "",
        own: str = "",
        frame: Motion | None = None,
        shaft: str | None = None,
        drawn: str = "",
    ) -> None:
        self.values, self.axis, self.stock, self.group, self.own, self.frame, self.shaft = values, axis, stock, group, own, frame, shaft
        self.drawn = drawn

    def size(self, name: str) -> Quantity:
        """A size, or a fit of the stock at hand."""
        v = self.values
        if name in FIT_NAMES and self.stock:
            return evaluate(getattr(v.fit_table(self.stock), name).text, "mm", "length", NoScope())
        if name in SHAFT_FITS and self.stock and self.shaft is not None and name not in v.size_keys:
            fits = v.fit_table(self.stock).shafts.get(self.shaft, ShaftFits())
            return evaluate(getattr(fits, name).text, "mm", "length", NoScope())
        if name not in v.size_keys:
            if name == "drawn" and self.drawn:
                return length(v.drawn_along(self.drawn, self.axis))
            if name in v.board_keys:
                raise KeyError(f"{name} is a part; name one of its faces, as in {name}.left")
            raise UnknownName(name, f"no size is called {name}")
        key = v.size_keys[name]
        if size_id(key) not in v.solved:
            raise KeyError(f"{name} has no value yet")
        return _MAKE[v.document.sizes[key].kind](v.solved[size_id(key)])

    def face(self, part: str, face: str) -> Quantity:
        """A face's or centre's place along its axis, or a board's thickness."""
        v = self.values
        if part in v.move_keys:
            return self._of_move(part, face)
        key, copy = (v.board_keys[part], "") if part in v.board_keys else v.handed.get(part, ("", ""))
        if not key:
            raise UnknownName(part, f"{part} is left out of the design" if part in v.left_out else f"no part is called {part}")
        if "." in face:
            return self._of_flange(key, copy, part, face)
        if face == "thickness":
            return length(v.thickness_of(key))
        if face == "pitch":
            return self._pitch(key, part)
        if face not in FACE_SIDES and face not in ("centre", "center"):
            if v.drawn_name(key, face):
                return self._in_drawing(key, copy, part, face)
            return self._in_hardware(key, copy, part, face)
        # a mirror image's faces are named as they stand: the words across its plane are exchanged
        axis, side = FACE_SIDES.get(across(face, mirrored_axes(v.document, [copy]) if copy else ()), (self.axis, "centre"))
        if not axis:
            raise KeyError(f"{part}.{face} needs an axis; write mid({part}.left, {part}.right) or the like")
        try:
            motion = self.motion(key, copy)
            if face in FACE_SIDES and v.slopes(key):
                raise _Unplaced(f"{part} runs along no axis, so its {face} has no one place; name its centre, or what does not slope")
            if not motion.plain:
                return self._moved(key, part, face, axis, side, motion)
            if self.axis and axis != self.axis:
                raise self._wrong_axis(part, face, axis)
            return Quantity(v.datum(key, axis, side), length=1, axis=axis, weight=1)
        except _Unplaced as error:
            raise KeyError(str(error)) from None
        except KeyError:
            raise KeyError(f"{part}.{face} has no place yet") from None

    def _of_move(self, name: str, what: str) -> Quantity:
        """How far a movement is moved: an angle or a length, never a place of what it moves."""
        if what != "at":
            raise KeyError(f"{name} is a movement; {name}.at is how far it is moved")
        v = self.values
        key = v.move_keys[name]
        move = v.document.moves[key]
        if move.to is not None and moved_to(key) not in v.solved:
            raise KeyError(f"{name}.at has no value yet")
        return (angle_of if move.kind == "turns" else length)(v.solved.get(moved_to(key), 0.0))

    def motion(self, key: str, copy: str = "") -> Motion:
        """From a part at rest to how this entry sees it; of its mirror image with a ``copy``. KeyError where that is not known yet."""
        v = self.values
        if copy:
            scope = scope_of(v.document, v.document.copies[copy].of[0]) or ""
            inner = handed_motion(v, copy) @ motion_between(v, key, scope)
            if v.still:
                return inner
            outer = IDENTITY if scope == self.group else motion_between_groups(v, scope, self.group)
            return (self.frame.inverse if self.frame else IDENTITY) @ outer @ inner
        if self.frame is not None:
            return self.frame.inverse @ motion_between(v, key, "")
        if v.still or self.own == part_id(key):
            return IDENTITY
        inside = read_owner(self.own).key if is_of(self.own, "group") else ""
        return motion_between(v, key, self.group, inside)

    def _pitch(self, key: str, part: str) -> Quantity:
        """The pitch diameter of a gear: its module by its teeth; two of one module run half the sum of theirs apart."""
        gear = gear_of(self.values.boards[key])
        if gear is None:
            raise KeyError(f"{part} is no gear, so it has no pitch")
        module = evaluate(gear.module.text, gear.module.unit, "length", EntryScope(self.values, stock=self.values.boards[key].stock))
        return length(module.value * gear.teeth)

    def _in_drawing(self, key: str, copy: str, part: str, name: str) -> Quantity:
        """A named line of a part's drawing, which lies square to an axis where it has one place; the middle of a named circle or arc."""
        try:
            axis, places = self.values.drawn_place(key, name)
            ends = self.motion(key, copy).points(np.array(places))
        except KeyError as error:
            told = str(error.args[0]) if " " in str(error.args[0]) else f"{part}.{name} has no place yet"
            raise KeyError(told) from None
        if len(ends) == 1:
            if not self.axis:
                raise KeyError(f"{part}.{name} needs an axis; write {part}.{name} - {part}.left or the like")
            return Quantity(float(ends[0][AXES.index(self.axis)]), length=1, axis=self.axis, weight=1)
        # square to the axis along which neither its ends nor the sheet beside them are apart
        spread = np.ptp(np.array(ends), axis=0)
        square = [a for a, s in zip(AXES, spread, strict=True) if s < SEEN]
        if not axis or not square:
            raise KeyError(f"{part}.{name} slopes here, so it has no one place along an axis; name a line that is level or upright")
        if self.axis and self.axis not in square:
            low, high = FACES[self.axis]
            raise KeyError(f"{part}.{name} lies along {square[0]}; a place along {self.axis} needs {low}, {high} or centre")
        found = self.axis or square[0]
        return Quantity(float(ends[0][AXES.index(found)]), length=1, axis=found, weight=1)

    def _in_hardware(self, key: str, copy: str, part: str, name: str) -> Quantity:
        """A named place of a piece of hardware: the middle of a hole, a face found in it, its origin."""
        try:
            names = self.values.named_in(key)
        except KeyError:
            raise KeyError(f"{part}.{name} has no place yet") from None
        if name not in names:
            faces = "left, right, front, back, bottom, top"
            if not names:
                raise KeyError(f"a board has no {name}; it has {faces}, centre and thickness")
            raise KeyError(f"{self.values.boards[key].name} has no {name}; it has {faces}, centre, {', '.join(sorted(names))}")
        if not self.axis:
            raise KeyError(f"{part}.{name} needs an axis; write {part}.{name} - {part}.left or the like")
        try:
            place = self.motion(key, copy).point(names[name])
        except KeyError:
            raise KeyError(f"{part}.{name} has no place yet") from None
        return Quantity(place[AXES.index(self.axis)], length=1, axis=self.axis, weight=1)

    def _of_flange(self, key: str, copy: str, part: str, name: str) -> Quantity:
        """A face or the far edge of a flange, which lie square to an axis where they have one place."""
        flange, _, face = name.rpartition(".")
        corners = self.values.leg_face(key, flange, face)
        try:
            corner, along, up = self.motion(key, copy).points(corners)
        except KeyError:
            raise KeyError(f"{part}.{name} has no place yet") from None
        way = up - corner if face == "end" else np.cross(along - corner, up - corner)
        way = np.abs(way) / np.linalg.norm(way)
        if way.max() < 1 - EPS:
            raise KeyError(f"{part}.{name} slopes here, so it has no one place along an axis; name what does not")
        axis = AXES[int(way.argmax())]
        try:
            if self.axis and axis != self.axis:
                raise self._wrong_axis(part, name, axis)
        except _Unplaced as error:
            raise KeyError(str(error)) from None
        return Quantity(float((up if face == "end" else corner)[AXES.index(axis)]), length=1, axis=axis, weight=1)

    def _wrong_axis(self, part: str, face: str, axis: str) -> KeyError:
        low, high = FACES[self.axis]
        return _Unplaced(f"{part}.{face} lies along {axis}; a place along {self.axis} needs {low}, {high} or centre")

    def _moved(self, key: str, part: str, face: str, axis: str, side: str, motion: Motion) -> Quantity:
        """A face of a board that is turned or moved: a place along the one axis that its plane lies square to."""
        v = self.values
        if side == "centre" and face not in FACE_SIDES:
            place = motion.point([v.datum(key, x, "centre") for x in AXES])
            return Quantity(place[AXES.index(self.axis)], length=1, axis=self.axis, weight=1)
        at = v.datum(key, axis, side)
        direction = motion.vector([1.0 if x == axis else 0.0 for x in AXES])
        now = next((i for i in range(3) if abs(direction[i]) > 1 - EPS), None)
        if now is None:
            raise _Unplaced(f"{part}.{face} slopes here, so it has no one place along an axis; name a face that does not, or the centre")
        if self.axis and AXES[now] != self.axis:
            raise self._wrong_axis(part, face, AXES[now])
        # the plane is square to this axis, so only the coordinate along its own old axis counts
        return Quantity(direction[now] * at + motion.rows[now][3], length=1, axis=AXES[now], weight=1)

    def gauge(self, number: float) -> float:
        """Thickness of a gauge number on the stock at hand."""
        stock = self.values.document.stocks.get(self.stock)
        if stock is None:
            raise KeyError("a gauge needs a stock with a gauge table")
        return gauge_thickness(stock.gauge, number, stock.name)
