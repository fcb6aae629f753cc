"""What is under the pointer, in words for the footer line."""

from __future__ import annotations

from ...components.catalogue import COMPONENT_BY_ID
from ...components.judge import Behind, judge_part
from ...language import as_ratio, comma_separated, named, stacked, states, tr
from ...palette.roles import ROLE_BY_ID
from ..model.document import Document
from .brush import Area
from .lay import PaintsOf


def area_words(area: Area, document: Document, paints: PaintsOf) -> str:
    """Return part, state, roles, ratio and file of what is pointed at; empty for what no component knows."""
    component = COMPONENT_BY_ID[area.component]
    part = component.by_key.get(area.part)
    look = document.look
    if part is None:
        return ""
    paint = paints.get(component.id, {}).get(part.key)
    words = [component.title, comma_separated(filter(None, (named(part.id), states(part.state))))]
    if paint is None:
        words.append(tr("its file does not set this"))
    elif look is not None:
        names = [ROLE_BY_ID[r].title for r in (part.text_role, part.fill_role) if r in ROLE_BY_ID]
        if names:
            words.append(stacked(list(dict.fromkeys(names))))
        pairs = judge_part(part, paint, Behind.of(look.scheme()))
        if pairs:
            worst = min(pairs, key=lambda p: p.shortfall)
            words.append(tr("{ratio}, needs {need:g}").format(ratio=as_ratio(worst.ratio), need=worst.need.level))
    files = document.dressed.files.get(component.id, ()) if document.dressed else ()
    if files:
        words.append(f"~/{files[0].path}")
    return "  ·  ".join(words)
