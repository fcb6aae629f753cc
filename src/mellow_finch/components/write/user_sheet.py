"""A person's own style sheet over a theme, which the toolkit takes for stronger however its selectors are."""

from __future__ import annotations

import re
from dataclasses import dataclass, replace
from functools import cached_property

from ...recolour.rewrite import Sure
from ...syntax.cascade import paint_all
from ...syntax.catalogue import format_by_id
from ...syntax.region import put_region
from ..decisions import Owner
from ..files import Files
from ..judge import Behind, judge_parts
from ..model import Paints, Part, Scheme, painted
from ..read.unfold import Include, Unfolded, unfolded
from .inplace import sure_of
from .rewrite import recoloured

_IMPORT = Include(re.compile(r'@import\s++(?:url\()?\s*+["\']?([^"\')\s;]++)["\']?\s*+\)?[^;@]*+;'), ("/*", "*/"))
_REGION = "toolkit"  # panels have a region of their own in the same file
# A rule whose picture lies beside the theme: the theme says it already, and beside the person's sheet there is none.
_BESIDE = re.compile(r"^[^{}\n]*\{ -gtk-icon-source: [^{};]*url\([^{};]*\); \}\n", re.MULTILINE)
_EVERYTHING = re.compile(r"(?:^|[},/])\s*\*\s*(?:,[^{}]*)?\{([^{}]*)\}")


@dataclass(frozen=True)
class UserSheet:
    """Where it lies, for which component, and what is looked at. rules: the theme's, which say what draws what."""

    owner: str
    path: str
    parts: tuple[Part, ...]
    rules: str

    def whole(self, get: Files) -> Unfolded:
        """Return the sheet with all that it imports."""
        return unfolded(get, self.path, _IMPORT)

    def _over(self, below: str, text: str) -> Paints:
        found = paint_all([below, text], [p.at for p in self.parts])
        return {p.key: painted(found[p.at]) for p in self.parts}

    @cached_property
    def _sure(self) -> Sure:
        """Return what says which role a literal has: that of most parts that it draws."""
        return sure_of(format_by_id("style-sheet"), lambda text: self._over(self.rules, text), self.parts)

    def recoloured(
        self, scheme: Scheme, get: Files, below: str, after: str = "", again: bool = False
    ) -> dict[str, str]:  # fmt: skip
        """Return the sheet and what it imports in the scheme's colours, by path.

        below: the theme's sheet; after: what will follow the person's in its file; again: whether the theme's rules may
        stand once more at its end where something stays unreadable, as a rule for everything leaves it. Empty where
        there is no such sheet, or none that says a colour.
        """
        whole, form = self.whole(get), format_by_id("style-sheet")
        if not form.scan(whole.text):
            return {}
        if "{" not in whole.text:  # names alone, which draw nothing by themselves
            own = replace(scheme.decided(self.owner), mends=frozenset())
            scheme = replace(scheme, mend=False, decisions={Owner.component(self.owner): own})

        def carried(after: str) -> tuple[str, Paints]:
            def read(text: str) -> Paints:
                return self._over(below, f"{text}\n{after}")

            fresh = recoloured(whole.text, form.scan, read, self.parts, scheme, self.owner, sure=self._sure)
            return fresh, read(fresh) if again else {}

        fresh, paints = carried(after)
        if all(pair.passes for pair in judge_parts(self.parts, paints, Behind.of(scheme))):
            return dict(whole.folded(fresh))
        rules = _resetting(whole.text) + _BESIDE.sub("", below)
        files = dict(whole.folded(carried(rules)[0]))
        return {**files, self.path: put_region(files[self.path], rules, ("/*", "*/"), name=_REGION)}


def _resetting(text: str) -> str:
    """Return a rule that takes back what a sheet says of everything, so that what follows counts."""
    said = " ".join(_EVERYTHING.findall(text))
    rows = ["color: inherit;"] if re.search(r"(?<![\w-])color\s*:", said) else []
    rows += ["background-color: transparent; background-image: none;"] if "background" in said else []
    return f"* {{ {' '.join(rows)} }}\n" if rows else ""
