"""Which choice of a look stands behind what one part of a component shows, so that it can be given another role."""

from __future__ import annotations

from ..components.decisions import Owner, Slot
from ..components.files import Files
from ..components.model import Component, Paints, Part
from .model import Look


def choice_behind(look: Look, component: Component, part: Part, what: str, files: Files, before: Paints) -> Slot | None:
    """Return the group, or the role, that a part's text, fill or edge is drawn with; None where there is none.

    what: "text", "fill" or "edge"; files: the person's own, not dressed; before: what they say of the component. Of a
    file that is recoloured it is the group that holds the colour as it was, or else one that has the part's role.
    """
    role = {"text": part.text_role, "edge": part.edge_role}.get(what, part.fill_role)
    decided = look.decided(Owner.component(component.id))
    subject = component.subject(files, decided.splits) if component.subject is not None else None
    if subject is None:
        return Slot("roles", role) if role and role in component.roles else None
    paint = before.get(part.key)
    was = {"text": paint.text, "edge": paint.edge}.get(what, paint.fill) if paint is not None else None
    holding = [g.key for g in subject.groups if was is not None and was.opaque in g.shades]
    alike = [g.key for g in subject.groups if role and decided.groups.get(g.key, g.role) == role]
    both = [key for key in holding if key in alike]
    return next((Slot("groups", key) for key in (*both, *holding, *alike)), None)
