"""Where in a look's files a pair's colour comes from: the file, the line, and the selector or key."""

from __future__ import annotations

from typing import NamedTuple

from ..components.model import Part
from ..components.read.readers import counted_place
from ..components.read.values import key_of_span as key_of
from ..look.dressed import Dressed
from ..syntax.catalogue import format_of
from ..syntax.sheet import Sheet
from ..syntax.spans import ColourSpan, line_of, replace_spans


class SourcePlace(NamedTuple):
    """A place in a file. path: from the home; line: from 1, 0 when it is not known; words: selector and key there."""

    path: str
    line: int = 0
    words: str = ""


def find_source(dressed: Dressed, component: str, part: Part, what: str = "text", path: str = "") -> SourcePlace | None:
    """Return where the colour of a part stands in the files of a dressed look; None when it has no file.

    what: "text", "fill" or "edge"; path: the file that is meant, where it is not the first that says something.
    """
    files = [f for f in dressed.files.get(component, ()) if not path or f.path == path]
    for file in files:
        try:
            text = file.data.decode("utf-8")
        except UnicodeDecodeError:
            continue
        counted = counted_place(text, part.id)
        if counted is not None:
            return SourcePlace(file.path, line_of(text, counted[0])[0], counted[1])
        form = format_of(file.path.rpartition("/")[2], text[:4096])
        if form is None:
            continue
        spans = tuple(form.scan(text))
        found = _in_sheet(text, spans, part, what) if form.syntax == "css" else _under_key(spans, part, what)
        if found is not None:
            words = " ".join(filter(None, (found.where, found.key)))
            return SourcePlace(file.path, line_of(text, found.start)[0], words)
    return SourcePlace(files[0].path) if files else None


def _in_sheet(text: str, spans: tuple[ColourSpan, ...], part: Part, what: str) -> ColourSpan | None:
    if not part.at or not spans:
        return None
    literals = [span.colour for span in spans]
    sheet = Sheet(replace_spans(text, ((span, f"__literal{i}") for i, span in enumerate(spans))))
    sheet.know([part.at])
    roots = sheet.roots(literals, part.at, sheet.name_roots(literals))
    fills = next((own for own in reversed(roots.fills) if own), frozenset())
    wanted = {"text": roots.text, "edge": roots.edge or fills}.get(what, fills)
    return spans[min(wanted)] if wanted and min(wanted) < len(spans) else None


def _under_key(spans: tuple[ColourSpan, ...], part: Part, what: str) -> ColourSpan | None:
    key = {"text": part.text, "edge": part.edge or part.fill}.get(what, part.fill)
    return next((span for span in spans if key and key_of(span) == key), None)
