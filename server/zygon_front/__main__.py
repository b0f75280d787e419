"""``python -m zygon_front --port 8460 SOCKET…``: the front door before the processes that listen at these sockets."""

from __future__ import annotations

import argparse
import resource

import uvicorn
from zygon_log import set_up

from zygon_front.door import Door
from zygon_front.patience import Patient

__all__ = ["main"]


def main() -> None:
    parser = argparse.ArgumentParser(prog="zygon_front", description=__doc__)
    parser.add_argument("sockets", nargs="+")
    parser.add_argument("--host", default="127.0.0.1")
    parser.add_argument("--port", type=int, default=8460)
    parser.add_argument("--behind-proxy", action="store_true", help="another proxy stands before, and tells the client's address")
    asked = parser.parse_args()
    set_up()
    # each connection is a file, and thousands may be idle
    _, most = resource.getrlimit(resource.RLIMIT_NOFILE)
    resource.setrlimit(resource.RLIMIT_NOFILE, (most, most))
    uvicorn.run(
        Door(asked.sockets, behind_proxy=asked.behind_proxy),
        host=asked.host,
        port=asked.port,
        http=Patient,
        ws="none",
        lifespan="on",
        # connections stay open longer than a client keeps them unused: few seconds end some just as they are taken up again
        timeout_keep_alive=75,
        h11_max_incomplete_event_size=32_000,
        backlog=2048,
        access_log=False,
        log_config=None,
        server_header=False,
        proxy_headers=False,
        timeout_graceful_shutdown=5,
    )


if __name__ == "__main__":
    main()
