"""What can be done where no colour helps: surfaces of a person's own that let too much of the picture through."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace

from ..components.catalogue import COMPONENT_BY_ID
from ..look.dressed import Dressed
from ..look.edits import with_opacity
from ..look.model import Look
from ..palette.veil import KIND_BY_ID, SurfaceKind, is_asked, whole_percent
from .proof import Finding, mend_all


@dataclass(frozen=True, slots=True)
class OpacityCure:
    """How the surfaces of a kind can be read whose own opacity lets too much through: their texts move, and where that
    is not enough, the opacity rises from `own` to `alpha`, both 0..1."""

    kind: str
    own: float
    alpha: float
    components: tuple[str, ...]

    @property
    def surface(self) -> SurfaceKind:
        """Return the kind of surface."""
        return KIND_BY_ID[self.kind]

    @property
    def titles(self) -> list[str]:
        """Return what the components are called."""
        return [COMPONENT_BY_ID[c].title for c in self.components]

    @property
    def by_colours(self) -> bool:
        """Tell whether the opacity stays as the person has it."""
        return self.alpha <= self.own

    def applied(self, look: Look) -> Look:
        """Return the look with the surfaces so opaque, and texts that can be read on them."""
        return _opened(look, self.kind, self.own)


def _opened(look: Look, kind: str, alpha: float) -> Look:
    """Return the look with a kind of surface translucent and readable, whether or not it keeps all readable else."""
    fresh = with_opacity(replace(look, mend_as_you_go=True), kind, alpha)
    return replace(fresh, mend_as_you_go=look.mend_as_you_go)


def opacity_cures(dressed: Dressed, rows: Iterable[Finding]) -> tuple[OpacityCure, ...]:
    """Return what mends failing pairs on surfaces whose opacity is the person's own.

    Surfaces that the look itself lets shine through are not among them: these it keeps readable.
    """
    found: dict[str, tuple[float, list[str]]] = {}
    for finding in (f for f in rows if not f.passes and not f.file):
        kind = finding.part.veil
        paint = dressed.paints[finding.component].get(finding.part.key)
        if kind is None or is_asked(kind, dressed.look.opacity) or paint is None:
            continue
        ground = next((layer[0] for layer in reversed(paint.layers) if layer and 0 < layer[0].a < 1), None)
        if ground is not None:
            least, components = found.setdefault(kind.id, (ground.a, []))
            components += [finding.component] * (finding.component not in components)
            found[kind.id] = (min(least, ground.a), components)
    out = []
    for kind_id, (least, components) in found.items():
        own = whole_percent(least)
        alpha = _opened(dressed.look, kind_id, own).drawn_opacity().get(kind_id, 1.0)
        out.append(OpacityCure(kind_id, own, alpha, tuple(components)))
    return tuple(out)


def all_mended(dressed: Dressed, rows: Sequence[Finding]) -> Look:
    """Return the look with everything mended that colours can mend; opacities stay as they are.

    Raises ImpossibleLocksError, naming the locks in the way.
    """
    look = mend_all(dressed.look, rows)
    for cure in opacity_cures(dressed, rows):
        look = cure.applied(look) if cure.by_colours else look
    return look
