"""When a change of a component shows, in words."""

from __future__ import annotations

EFFECTS = {"at once": "at once", "reload": "after a reload", "restart": "after a restart"}
