"""What the front door has seen, in the text format that collectors of metrics read."""

from __future__ import annotations

from collections import Counter

__all__ = ["BUCKETS", "Metrics"]

#: Upper ends of the classes of times (s).
BUCKETS = (0.05, 0.1, 0.2, 0.4, 0.8, 1.6, 3.2, 6.4, 30.0)


class Metrics:
    """Counts requests by method and status, and how long they took."""

    def __init__(self) -> None:
        self.requests: Counter[tuple[str, int]] = Counter()
        self.within: Counter[float] = Counter()
        self.seconds = 0.0
        self.open = 0

    def count(self, method: str, status: int, seconds: float) -> None:
        """One request that was answered."""
        self.requests[method, status] += 1
        self.seconds += seconds
        for most in BUCKETS:
            if seconds <= most:
                self.within[most] += 1

    def text(self) -> str:
        """All of it, a line each."""
        total = sum(self.requests.values())
        lines = ["# TYPE zygon_requests_total counter"]
        lines += [f'zygon_requests_total{{method="{m}",status="{s}"}} {n}' for (m, s), n in sorted(self.requests.items())]
        lines += ["# TYPE zygon_request_seconds histogram"]
        lines += [f'zygon_request_seconds_bucket{{le="{most:g}"}} {self.within[most]}' for most in BUCKETS]
        lines += [
            f'zygon_request_seconds_bucket{{le="+Inf"}} {total}',
            f"zygon_request_seconds_sum {self.seconds:.6f}",
            f"zygon_request_seconds_count {total}",
        ]
        lines += ["# TYPE zygon_requests_open gauge", f"zygon_requests_open {self.open}"]
        return "\n".join(lines) + "\n"
