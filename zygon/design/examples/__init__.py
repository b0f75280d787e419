"""The demo workshop's designs: a garden beehive, part by part."""

from __future__ import annotations

from collections.abc import Callable

from zygon.design.document import Document
from zygon.design.examples.brood_box import brood_box
from zygon.design.examples.carrying_bail import carrying_bail
from zygon.design.examples.cupboard import cupboard
from zygon.design.examples.drying_rack import drying_rack
from zygon.design.examples.enclosure import electronics_box, entrance_guard, vent_plate
from zygon.design.examples.feeder_tray import feeder_tray
from zygon.design.examples.folded import frame_rests, roof
from zygon.design.examples.folding_leg import folding_leg
from zygon.design.examples.frame import frame
from zygon.design.examples.frame_rack import frame_rack
from zygon.design.examples.hand_crank import entrance_disc, hand_crank
from zygon.design.examples.hive import hive
from zygon.design.examples.hive_floor import hive_floor
from zygon.design.examples.inner_cover import inner_cover
from zygon.design.examples.landing_board import clamp_plate, landing_board
from zygon.design.examples.rebated_box import rebated_box
from zygon.design.examples.screen_board import screen_board
from zygon.design.examples.smoker_hook import smoker_hook
from zygon.design.examples.splayed_stand import splayed_stand
from zygon.design.examples.stand import stand
from zygon.design.examples.tool_chest import tool_chest
from zygon.design.examples.tube_stand import tube_stand
from zygon.errors import DocumentError

__all__ = ["EXAMPLES", "brood_box", "example"]

EXAMPLES: dict[str, Callable[[], Document]] = {
    "frame": frame,
    "stand": stand,
    "frame-rack": frame_rack,
    "splayed-stand": splayed_stand,
    "screen-board": screen_board,
    "inner-cover": inner_cover,
    "hive-floor": hive_floor,
    "landing-board": landing_board,
    "clamp-plate": clamp_plate,
    "rebated-box": rebated_box,
    "cupboard": cupboard,
    "brood-box": brood_box,
    "roof": roof,
    "frame-rests": frame_rests,
    "entrance-guard": entrance_guard,
    "vent-plate": vent_plate,
    "feeder-tray": feeder_tray,
    "electronics-box": electronics_box,
    "tube-stand": tube_stand,
    "carrying-bail": carrying_bail,
    "smoker-hook": smoker_hook,
    "drying-rack": drying_rack,
    "fold-down-leg": folding_leg,
    "tool-chest": tool_chest,
    "hand-crank": hand_crank,
    "entrance-disc": entrance_disc,
    "hive": hive,
}


def example(name: str) -> Document:
    """An example design. Raises DocumentError for an unknown name."""
    if name not in EXAMPLES:
        rule = f"one of {', '.join(EXAMPLES)}"
        raise DocumentError(f"example: {name!r} is not {rule}", entry="example", value=name, rule=rule, code="bad_example")
    return EXAMPLES[name]()
