"""All pairs of all dressed components as their files have them, worst first, and what mends them."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from pathlib import PurePosixPath

from ..colour.requirement import Requirement
from ..colour.rgb import Rgba
from ..components.catalogue import COMPONENT_BY_ID
from ..components.judge import Behind, judge_parts
from ..components.model import Paints, Part
from ..language import comma_separated, named, states, tr
from ..look.decision_edits import with_mend
from ..look.dressed import Dressed
from ..look.edits import with_mended_roles
from ..look.model import Look
from ..progress import give_way


@dataclass(frozen=True, slots=True)
class Finding:
    """One pair as a file has it. what: "text" or "edge"; colours as drawn at the worst place.

    file: which of a component's files, where it is not the first.
    """

    tone: str
    component: str
    part: Part
    what: str
    text: Rgba
    surface: Rgba
    ratio: float
    need: Requirement
    file: str = ""

    @property
    def passes(self) -> bool:
        """Tell whether the ratio reaches the need."""
        return self.need.met(self.ratio)

    @property
    def shortfall(self) -> float:
        """Return ratio by need: below 1 it fails, the smaller the worse."""
        return self.need.shortfall(self.ratio)

    @property
    def key(self) -> str:
        """Return "component/part", by which it is mended."""
        return f"{self.component}/{self.part.key}"

    @property
    def words(self) -> str:
        """Return the pair in words."""
        name = named(self.part.id)
        facts = [f"{name[:1].upper()}{name[1:]}"]
        if self.part.state:
            facts.append(states(self.part.state))
        if self.what == "edge":
            facts.append(tr("edge"))
        if self.file:
            facts.append(PurePosixPath(self.file).name)
        return comma_separated(facts)


def findings(paints: Mapping[str, Paints], behind: Behind, tone: str) -> tuple[Finding, ...]:
    """Return every pair of every component, the worst shortfall first."""
    rows = [f for component, found in paints.items() for f in _of(component, found, behind, tone)]
    return tuple(sorted(rows, key=lambda f: f.shortfall))


def _of(component: str, paints: Paints, behind: Behind, tone: str, file: str = "") -> list[Finding]:
    give_way()
    return [
        Finding(tone, component, p.part, p.what, p.text, p.surface, p.ratio, p.need, file)
        for p in judge_parts(COMPONENT_BY_ID[component].parts, paints, behind)
    ]


def prove(dressed: Dressed) -> tuple[Finding, ...]:
    """Return every pair of a dressed look, worst first."""
    behind, tone = Behind.of(dressed.look.scheme()), dressed.look.tone
    rows = list(findings(dressed.paints, behind, tone))
    for component in dressed.files:
        for file, paints in dressed.further(component).items():
            rows += _of(component, paints, behind, tone, file)
    return tuple(sorted(rows, key=lambda f: f.shortfall))


def mend(look: Look, rows: Iterable[Finding]) -> Look:
    """Return the look with some findings mended by the smallest change.

    Pairs of roles are mended in the palette, pairs of rewritten files in the file's own literals.
    Raises ImpossibleLocksError, naming the locks in the way.
    """
    short = [f for f in rows if not f.passes]
    for finding in short:
        if COMPONENT_BY_ID[finding.component].rewrites:
            look = with_mend(look, finding.component, finding.part.key)
    ours = [f for f in short if not COMPONENT_BY_ID[f.component].rewrites]
    if ours:
        roles = {r for f in ours for r in (f.part.text_role, f.part.fill_role)}
        pairs = tuple(j for j in look.failing() if j.pair.text in roles or j.pair.surface in roles)
        if pairs:
            look = with_mended_roles(look, pairs)
    return look


def mend_all(look: Look, rows: Iterable[Finding]) -> Look:
    """Return the look with every failing pair of roles, and every failing finding of rewritten files, mended.

    Raises ImpossibleLocksError, naming the locks in the way.
    """
    look = with_mended_roles(look)
    for finding in rows:
        if not finding.passes and COMPONENT_BY_ID[finding.component].rewrites:
            look = with_mend(look, finding.component, finding.part.key)
    return look
