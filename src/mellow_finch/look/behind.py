"""Which choice of a look stands behind what one part of a component shows, so that it can be given another role."""

from __future__ import annotations

from ..components.model import Component, Files, Paints, Part
from ..components.shades import ROLE_KEY
from .model import Look


def choice_behind(look: Look, component: Component, part: Part, what: str, files: Files, before: Paints) -> str:
    """Return the key of the group, or of the role, that a part's text, fill or edge is drawn with; empty for none.

    what: "text", "fill" or "edge"; files: the person's own, not dressed; before: what they say of the component. Of a
    file that is recoloured it is the group that holds the colour as it was, or else one that has the part's role.
    """
    role = {"text": part.text_role, "edge": part.edge_role}.get(what, part.fill_role)
    subject = component.subject(files, look.splits_of(component.id)) if component.subject is not None else None
    if subject is None:
        return ROLE_KEY + role if role and role in component.roles else ""
    paint = before.get(part.key)
    was = {"text": paint.text, "edge": paint.edge}.get(what, paint.fill) if paint is not None else None
    choices = look.choices_of(component.id)
    holding = [g.key for g in subject.groups if was is not None and was.opaque in g.shades]
    alike = [g.key for g in subject.groups if role and choices.get(g.key, g.role) == role]
    both = [key for key in holding if key in alike]
    return next(iter([*both, *holding, *alike]), "")
