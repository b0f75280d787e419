"""Loads the demo workshop: its account, its shelf, and its designs. Run again, it changes nothing that is there."""

from django.contrib.auth import get_user_model
from django.core.management.base import BaseCommand

from zygon.design.examples import EXAMPLES
from zygon.design.starters import starter
from zygon.design.workshop import STOCKS
from zygon.geometry.boolean import Region
from zygon.geometry.contour import polygon
from zygon_server.accounts.service import DEMO_USER
from zygon_server.designs.models import Design
from zygon_server.designs.service import create
from zygon_server.nesting.runs import ask
from zygon_server.workshop.models import Offcut
from zygon_server.workshop.offcuts import keep_offcut
from zygon_server.workshop.on_hand import count, on_hand_of
from zygon_server.workshop.service import stock_the_shelf

#: Stock, thickness in mm, corners in mm, where it is from and where it stands. Invented.
OFFCUTS = (
    ("ply12", 11.8, [(0, 0), (610, 0), (610, 245), (330, 245), (330, 520), (0, 520)], "Hive, sheet 2", "rack by the door, slot 3"),
    ("ply12", 11.8, [(0, 0), (410, 0), (410, 300), (0, 300)], "Tool chest, sheet 1", "rack by the door, slot 3"),
    ("ply6", 5.9, [(0, 0), (560, 0), (560, 430), (120, 430), (0, 310)], "Frame tray, sheet 1", "under the bench"),
)


#: What is counted of the shelf's stocks: stock, size, how many. Invented.
ON_HAND = (
    ("ply12", "half", 14),
    ("ply12", "full", 3),
    ("ply18", "half", 6),
    ("square40", "bar", 4),
    ("tube33", "bar", 9),
    ("steel8", "bar", 5),
)


class Command(BaseCommand):
    """load_demo"""

    help = "Load the demo workshop's account and designs."

    def add_arguments(self, parser) -> None:
        """The command's own switch."""
        parser.add_argument("--no-layouts", action="store_true", help="leave the sheets to be laid out when a design is opened")

    def handle(self, *, no_layouts: bool = False, **_) -> None:
        """Runs the command."""
        user, new = get_user_model().objects.get_or_create(username=DEMO_USER)
        if new:
            user.set_unusable_password()
            user.save()
        stock_the_shelf(user)
        if not on_hand_of(user.pk):
            for stock, size, there in ON_HAND:
                count(user, stock, size, there)
        if not Offcut.objects.filter(owner=user).exists():
            for stock, thickness, outline, origin, place in OFFCUTS:
                keep_offcut(user, stock, STOCKS[stock]["name"], thickness, Region(polygon(outline)), origin=origin, place=place)
        names = set(Design.objects.filter(owner=user).values_list("name", flat=True))
        made = []
        for kind, name in (("shelf-case", "Honey shelf"), ("tray", "Frame tray"), ("closed-box", "Tool chest")):
            if name not in names:
                made.append(create(user, starter(kind, name)))
        for draft in EXAMPLES.values():
            document = draft()
            if document.name not in names:
                made.append(create(user, document))
        for design in () if no_layouts else reversed(made):  # the latest stands first in the list, and is opened first
            ask(design)
        self.stdout.write("The demo workshop is loaded.")
