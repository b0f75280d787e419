"""How quickly makers are answered when many work at once: ``python bench/load.py http://127.0.0.1:8460`` against a running demo.

Each maker has a copy of the brood box and tries a width every two seconds, as a drag that rests now and then; with ``--search`` a search runs beside.
The reference is one maker alone, measured first in the same run. ``make harden`` prints the table of docs/hardening.md with it.
"""

from __future__ import annotations

import argparse
import asyncio
import random
import statistics
import time

import httpx


async def enter(base: str) -> httpx.AsyncClient:
    """A browser's session in the demo workshop."""
    client = httpx.AsyncClient(base_url=base, timeout=60, trust_env=False)
    await client.get("/")
    answer = await client.post("/api/session/demo", headers=proof(client, base))
    answer.raise_for_status()
    return client


def proof(client: httpx.AsyncClient, base: str) -> dict[str, str]:
    return {"X-CSRFToken": client.cookies["csrftoken"], "Referer": base}


async def copied(client: httpx.AsyncClient, base: str, name: str) -> str:
    designs = (await client.get("/api/designs")).json()
    box = next(d["id"] for d in designs if d["name"] == name)
    answer = await client.post(f"/api/designs/{box}/copy", headers=proof(client, base))
    answer.raise_for_status()
    return answer.json()["id"]


async def work(base: str, seconds: float, pause: float, number: int) -> list[float]:
    """One maker: the seconds that each answer took."""
    chance, taken = random.Random(number), []
    client = await enter(base)
    design = await copied(client, base, "Brood box")
    try:
        held = (await client.get(f"/api/designs/{design}")).json()
        until = time.monotonic() + seconds
        await asyncio.sleep(chance.random() * pause)
        while time.monotonic() < until:
            patch = [{"op": "replace", "path": "/sizes/width/entry/text", "value": f"{chance.randint(300, 560)} mm"}]
            began = time.monotonic()
            answer = await client.post(
                f"/api/designs/{design}/preview", json={"patch": patch, "holds": held["tag"]}, headers=proof(client, base)
            )
            taken.append(time.monotonic() - began)
            answer.raise_for_status()
            await asyncio.sleep(max(0.0, pause - taken[-1]))
    finally:
        await client.delete(f"/api/designs/{design}", headers=proof(client, base))
        await client.aclose()
    return taken


def told(words: str, taken: list[float], reference: float = 0.0) -> float:
    p95 = statistics.quantiles(taken, n=20)[-1]
    ratio = f"{p95 / reference:5.1f} x" if reference else "reference"
    print(
        f"{words:34} {len(taken):5} answers   median {1000 * statistics.median(taken):5.0f} ms   p95 {1000 * p95:5.0f} ms   {ratio}",
        flush=True,
    )
    return p95


async def main() -> None:
    parser = argparse.ArgumentParser(prog="load", description=__doc__)
    parser.add_argument("base")
    parser.add_argument("--makers", type=int, default=20)
    parser.add_argument("--seconds", type=float, default=20.0)
    asked = parser.parse_args()
    alone = told("one maker alone", await work(asked.base, asked.seconds / 2, 0.2, 0))
    many = await asyncio.gather(*(work(asked.base, asked.seconds, 2.0, n) for n in range(asked.makers)))
    told(f"{asked.makers} makers, every 2 s", [t for some in many for t in some], alone)
    client = await enter(asked.base)
    design = await copied(client, asked.base, "Hive")
    await client.post(f"/api/designs/{design}/nest", json={"quick": False, "seconds": asked.seconds * 2}, headers=proof(client, asked.base))
    many = await asyncio.gather(*(work(asked.base, asked.seconds, 2.0, n) for n in range(asked.makers)))
    told(f"{asked.makers} makers, a search beside", [t for some in many for t in some], alone)
    await client.delete(f"/api/designs/{design}", headers=proof(client, asked.base))
    await client.aclose()


if __name__ == "__main__":
    asyncio.run(main())
