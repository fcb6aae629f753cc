"""Signs and fonts that a look's files name and no font of this computer has: said before it is worn."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterable, Sequence
from pathlib import Path
from typing import NamedTuple

from ..components.catalogue import COMPONENT_BY_ID
from ..disk.facts import read_plain
from ..errors import FinchError
from ..language import parted, tr
from ..look.model import Look
from ..palette.veil import KINDS
from ..session.commands import Answer, ask
from .plan import Plan

# Unicode's private use areas, where fonts of signs have what prompts and bars show.
_PRIVATE = re.compile("[\ue000-\uf8ff\U000f0000-\U000ffffd\U00100000-\U0010fffd]")
_KINDS = ("Panels and docks", "Launchers", "Notifications", "Terminal programs", "Widgets", "Terminals")
# What stands beside files that are written and says what bars and prompts show.
_BESIDE = (
    ("waybar", (".config/waybar/config", ".config/waybar/config.jsonc")),
    ("prompt", (".config/starship.toml", ".p10k.zsh")),
    ("widget-sheet", (".config/eww/eww.yuck",)),
)
_MOST_FILE = 1_000_000
_MOST_ASKED = 24  # signs that a font is looked for


class Unseen(NamedTuple):
    """Something that would not show as it is meant: what it is called, what of it, and what can be done."""

    title: str
    what: str
    cure: str


def unseen(
    plan: Plan,
    look: Look,
    home: Path,
    question: Callable[[Sequence[str]], Answer] = ask,
    flat: bool = False,
    sharp: bool = False,
) -> tuple[Unseen, ...]:
    """Return fonts that the look names and that are not here, and signs of its bars and prompts that no font has.

    flat: whether its translucent surfaces are opaque here; sharp: whether they are not blurred here. Nothing is said
    where fontconfig cannot be asked.
    """
    out = []
    if flat:
        kinds = [kind.title for kind in KINDS if kind.id in look.opacity]
        out.append(
            Unseen(
                tr("Translucent surfaces"),
                tr("{names}: opaque, because no compositor is running").format(names=parted(kinds)),
                tr("Switch one on in Tune, Opacity, or in Dress, Companions."),
            )
        )
    if sharp:
        cure = tr("Switch blur on in your compositor's own file, or clear the tick in Tune, Opacity.")
        out.append(Unseen(tr("Blur"), tr("nothing blurs here: applied as without blur"), cure))
    missing = [family for family in look.font_families if _none_has(f":family={family}", question)]
    if missing:
        out.append(
            Unseen(
                tr("Fonts that are not installed"),
                parted(missing),
                tr("Another font is used instead: install them, or choose another in Dress, Shape."),
            )
        )
    cure = tr("Its program does not accept such lines; what this look adds works.")
    out += [Unseen(tr("Line ends of another system"), f"~/{path}", cure) for path in _foreign_lines(plan)]
    known: dict[str, bool] = {}
    for title, texts in _texts(plan, home):
        signs = sorted({sign for text in texts for sign in _PRIVATE.findall(text)})
        for sign in signs[: max(0, _MOST_ASKED - len(known))]:
            known.setdefault(sign, _none_has(f":charset={ord(sign):x}", question))
        lacking = [sign for sign in signs if known.get(sign)]
        if lacking:
            out.append(
                Unseen(
                    tr("Characters missing from every font: {title}").format(title=title),
                    ", ".join(f"U+{ord(sign):04X}" for sign in lacking[:8]) + (" …" if len(lacking) > 8 else ""),
                    tr("They appear as boxes: install a font that has them."),
                )
            )
    return tuple(out)


def _foreign_lines(plan: Plan) -> Iterable[str]:
    """Return the files with line ends that their readers refuse."""
    for write in plan.writes:
        plain = (p for id_ in write.components if id_ in COMPONENT_BY_ID for p in COMPONENT_BY_ID[id_].plain_lines)
        if write.path in plain and b"\r\n" in write.data:
            yield write.path


def _none_has(pattern: str, question: Callable[[Sequence[str]], Answer]) -> bool:
    said = question(["fc-list", pattern, "family"])
    return said.code in (0, 1) and not said.said and not said.out.strip()


def _texts(plan: Plan, home: Path) -> Iterable[tuple[str, list[str]]]:
    """Return what bars, prompts and the like say when the look is worn, by what they are called."""
    found: dict[str, list[str]] = {}
    for write in plan.writes:
        for id_ in write.components:
            component = COMPONENT_BY_ID.get(id_)
            if component is not None and component.kind in _KINDS and b"\0" not in write.data:
                found.setdefault(component.title, []).append(write.data.decode("utf-8", "replace"))
    written = {write.path for write in plan.writes}
    dressed = {id_ for write in plan.writes for id_ in write.components}
    for id_, paths in _BESIDE:
        for path in paths if id_ in dressed and id_ in COMPONENT_BY_ID else ():
            data = None
            if path not in written:
                try:
                    data = read_plain(home / path, _MOST_FILE)
                except FinchError:
                    continue
            if data is not None:
                found.setdefault(COMPONENT_BY_ID[id_].title, []).append(data.decode("utf-8", "replace"))
    return found.items()
