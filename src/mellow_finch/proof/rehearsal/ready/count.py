# Counts what the nets of the reedbed caught.
from datetime import date

NETS = {"reed": 7, "pool": 3}


class Count:
    """One morning's count."""

    def __init__(self, day: date, birds: int = 0) -> None:
        self.day, self.birds = day, birds

    def add(self, net: str) -> int:
        if net not in NETS:
            raise ValueError(f"no net {net!r}")
        self.birds += NETS[net]
        return self.birds  # all of them
