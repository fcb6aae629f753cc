"""What is known of a saved look without reading it: a small file beside it, made again if missing or broken."""

from __future__ import annotations

import json
from collections.abc import Iterable
from dataclasses import dataclass
from datetime import UTC, datetime
from pathlib import Path
from typing import Literal

from ..colour.contrast import ratio
from ..colour.gamut import rgba_to_oklch
from ..colour.rgb import Rgba, parse_hex
from ..language import tr
from ..look.model import Look
from ..palette.pairs import pairs_for
from ..palette.recipe import TONES, Tone

Source = Literal["picture", "pictures", "other"]
SOURCES: dict[Source, str] = {
    "picture": tr("an image"),
    "pictures": tr("several images"),
    "other": tr("a scheme or a theme"),
}
_STRICT = 7.0
_MOST_TAGS, _LONGEST_TAG = 24, 40


@dataclass(frozen=True, slots=True, kw_only=True)
class KeptLook:
    """One look on the shelf.

    id: the name of its folder; kept: when, in ISO 8601; accents, windows: by tone; strict: whether every text reaches
    7:1 in the tone in force; digest: of the look's file.
    """

    id: str
    name: str
    tone: Tone
    kept: str
    accents: dict[str, Rgba]
    windows: dict[str, Rgba]
    source: Source = "picture"
    strict: bool = False
    tags: tuple[str, ...] = ()
    digest: str = ""

    @property
    def accent(self) -> Rgba:
        """Return the accent of the tone in force."""
        return self.accents[self.tone]

    @property
    def hue_deg(self) -> float:
        """Return the accent's OKLCH hue, 0..360."""
        return rgba_to_oklch(self.accent)[2] % 360

    @property
    def lightness(self) -> float:
        """Return the OKLab lightness of the windows of the tone in force, 0..1."""
        return rgba_to_oklch(self.windows[self.tone])[0]

    def as_json(self) -> dict[str, object]:
        """Return it with the documented keys."""
        return {
            "id": self.id,
            "name": self.name,
            "tone": self.tone,
            "kept": self.kept,
            "accents": {t: c.hex for t, c in self.accents.items()},
            "windows": {t: c.hex for t, c in self.windows.items()},
            "source": self.source,
            "strict": self.strict,
            "tags": list(self.tags),
            "digest": self.digest,
        }


def kept_of(id_: str, look: Look, digest: str, tags: Iterable[str] = (), when: str = "") -> KeptLook:
    """Return what is known of a look that is read."""
    texts = [p for p in pairs_for(_STRICT) if p.need.kind == "text"]
    colours = look.colours
    return KeptLook(
        id=id_,
        name=look.name,
        tone=look.tone,
        kept=when or now_text(),
        accents={t: look.palettes[t]["accent"] for t in TONES},
        windows={t: look.palettes[t]["window"] for t in TONES},
        source="pictures" if len(look.pictures) > 1 else "picture" if look.source and not look.origin else "other",
        strict=all(ratio(colours[p.text], colours[p.surface]) >= _STRICT for p in texts),
        tags=cleaned_tags(tags),
        digest=digest,
    )


def kept_from_json(id_: str, text: str) -> KeptLook:
    """Read what a file says of a saved look; raises ValueError, KeyError or TypeError where it is not one."""
    data = json.loads(text)
    if data["tone"] not in TONES or data["source"] not in SOURCES:
        raise ValueError("no such tone or source")
    return KeptLook(
        id=id_,
        name=str(data["name"]),
        tone=data["tone"],
        kept=str(data["kept"]),
        accents={t: parse_hex(data["accents"][t]) for t in TONES},
        windows={t: parse_hex(data["windows"][t]) for t in TONES},
        source=data["source"],
        strict=bool(data["strict"]),
        tags=cleaned_tags(data["tags"]),
        digest=str(data["digest"]),
    )


def cleaned_tags(tags: Iterable[str]) -> tuple[str, ...]:
    """Return tags as they are kept: without empty ones and doubles, short, in order."""
    plain = (" ".join(str(tag).split())[:_LONGEST_TAG] for tag in tags)
    return tuple(dict.fromkeys(sorted(tag for tag in plain if tag)))[:_MOST_TAGS]


def now_text() -> str:
    """Return the time as it is kept."""
    return datetime.now(UTC).isoformat(timespec="seconds")


def size_of(folder: Path) -> int:
    """Return how many bytes a folder holds."""
    return sum(p.stat().st_size for p in folder.rglob("*") if p.is_file())


# Sorting and narrowing, the same for the wall and the command line

ORDERS: dict[str, str] = {
    "newest": tr("Newest first"),
    "name": tr("By name"),
    "hue": tr("By accent hue"),
    "lightness": tr("From dark to light"),
}


def sorted_by(rows: Iterable[KeptLook], order: str) -> list[KeptLook]:
    """Return looks in an order of ORDERS; the same order for the same rows."""
    found = sorted(rows, key=lambda k: k.name.casefold())
    if order == "newest":
        return sorted(found, key=lambda k: k.kept, reverse=True)
    if order == "hue":
        return sorted(found, key=lambda k: (rgba_to_oklch(k.accent)[1] < 0.03, k.hue_deg))
    return sorted(found, key=lambda k: k.lightness) if order == "lightness" else found


def narrowed(
    rows: Iterable[KeptLook], words: str = "", tone: str = "", source: str = "", strict: bool = False
) -> list[KeptLook]:
    """Return the looks whose name or tags hold every word, of a tone and a source where these are given."""
    wanted = words.casefold().split()
    return [
        k
        for k in rows
        if all(w in " ".join([k.name, *k.tags]).casefold() for w in wanted)
        and tone in ("", k.tone)
        and source in ("", k.source)
        and (k.strict or not strict)
    ]
