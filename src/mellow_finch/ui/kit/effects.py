"""When a change of a component shows, in words."""

from __future__ import annotations

from ...language import tr

EFFECTS = {"at once": tr("at once"), "reload": tr("after a reload"), "restart": tr("after a restart")}
