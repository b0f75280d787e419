"""Hostile and spoilt files, one after another: each is read or refused, and nobody else waits meanwhile."""

from __future__ import annotations

import threading
import time

from scripts.harden.application import Application, Maker, running
from tests.fuzz.spoilt import CORPUS, spoilt

__all__ = ["hostile"]

PAGE = '<svg xmlns="http://www.w3.org/2000/svg" width="100mm" height="100mm" viewBox="0 0 100 100">{}</svg>'
#: Made to hang or fell whoever reads them: (route, name, content).
MADE = [
    ("bought-solid", "deep.step", b"ISO-10303-21;" + b"(" * 400_000),
    ("outline", "curve.svg", PAGE.format('<path d="M0 0C1e300 0 0 1e300 9 9"/>').encode()),
    ("outline", "itself.svg", PAGE.format('<g id="a"><use href="#a"/></g>').encode()),
    (
        "outline",
        "doubled.svg",
        PAGE.format(
            '<g id="g0"><rect width="5" height="5"/></g>'
            + "".join(f'<g id="g{n}"><use href="#g{n - 1}"/><use href="#g{n - 1}"/></g>' for n in range(1, 30))
        ).encode(),
    ),
    ("outline", "wide.svg", PAGE.format('<ellipse rx="1e12" ry="9"/>').encode()),
    ("outline", "deep.svg", PAGE.format("<g>" * 20_000).encode()),
    (
        "outline",
        "squares.svg",
        PAGE.format("".join(f'<rect x="{n % 200 * 3}" y="{n // 200 * 3}" width="2" height="2"/>' for n in range(3000))).encode(),
    ),
    ("upload", "deep.json", b"[" * 2_000_000),
    ("upload", "digits.json", b'{"schema": ' + b"9" * 2_000_000 + b"}"),
    ("bend-rows", "wide.csv", b"thickness,radius,angle,k\n" + b"1," * 1_000_000),
]
ROUTES = {".dxf": "outline", ".svg": "outline", ".step": "bought-solid", ".json": "upload", ".csv": "bend-rows"}


def hostile(count: int) -> str:
    """The line of the table."""
    with running(ZYGON_RATES="off") as application:
        maker = Maker(application.base)
        design = maker.copied("Brood box")
        stop, waits = threading.Event(), list[float]()
        others = threading.Thread(target=_look, args=(application, stop, waits))
        others.start()
        taken, refused, odd = [], 0, []
        for route, name, content in _files(count):
            path = "/api/designs/upload" if route == "upload" else f"/api/designs/{design}/{route}"
            began = time.monotonic()
            answer = maker.client.post(path, files={"file": (name, content)}, headers=maker.proof())
            taken.append(time.monotonic() - began)
            refused += answer.status_code == 422
            if answer.status_code not in (200, 422):
                odd.append(f"{name}: {answer.status_code}")
            elif answer.status_code == 200 and route == "upload":
                maker.client.delete(f"/api/designs/{answer.json()['id']}", headers=maker.proof())
        stop.set()
        others.join()
    waits.sort()
    return (
        f"{count} hostile and spoilt files: {refused} refused in words, the others read; longest {max(taken):.1f} s; "
        f"others were answered within {1000 * waits[int(len(waits) * 0.99)]:.0f} ms (99 of 100), {1000 * waits[-1]:.0f} ms at most"
        + (f"; NOT ANSWERED AS IT SHOULD BE: {', '.join(odd)}" if odd else "")
    )


def _files(count: int):
    yield from MADE
    names = sorted(p.name for p in CORPUS.iterdir() if p.suffix in ROUTES)
    for seed in range(count - len(MADE)):
        name = names[seed % len(names)]
        yield ROUTES[(CORPUS / name).suffix], name, spoilt((CORPUS / name).read_bytes(), 1000 + seed)


def _look(application: Application, stop: threading.Event, waits: list[float]) -> None:
    """Somebody else, who looks at the list of designs and at the workshop."""
    other = Maker(application.base)
    while not stop.is_set():
        for path in ("/api/session", "/api/workshop"):
            began = time.monotonic()
            try:
                other.client.get(path).raise_for_status()
            finally:
                waits.append(time.monotonic() - began)
        time.sleep(0.05)
