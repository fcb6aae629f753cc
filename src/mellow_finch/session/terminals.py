"""What gives an open terminal the colours of its own configuration back."""

from __future__ import annotations

# OSC 104 for the sixteen, 110 to 112 for text, ground and cursor, 117 and 119 for the selection; each ended by ST.
RESET = "".join(f"\x1b]{code}\x1b\\" for code in (104, 110, 111, 112, 117, 119))
