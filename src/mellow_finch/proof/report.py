"""Readability to show others: one page of HTML, without network or script, that prints well.

What was judged and how, a summary, every pair with its sample in its colours, worst first by component, and the same
under the eyes of those who see colours otherwise.
"""

from __future__ import annotations

from collections.abc import Collection, Iterable, Mapping
from dataclasses import dataclass
from html import escape
from pathlib import Path

from ..colour.contrast import plain_ink, ratio
from ..colour.measures import FURTHER
from ..colour.requirement import TEXT
from ..colour.rgb import Rgba
from ..colour.vision import VISIONS, Vision, simulate_colour
from ..components.catalogue import COMPONENT_BY_ID
from ..components.files import Files
from ..components.judge import Behind
from ..language import (
    as_ratio,
    as_sentence,
    decimal,
    html_language,
    listed,
    moment,
    plural,
    sentences,
    some,
    spelled,
    titled,
    tone_word,
    tr,
    with_note,
)
from ..look.dressed import as_it_is, dress, every_component
from ..look.edits import with_tone
from ..look.model import Look
from ..palette.apart import confusions
from ..palette.recipe import TONES, Tone
from ..palette.roles import role_title
from ..picture.backdrop import PLAIN
from .proof import Finding, findings, prove
from .rehearsal.last import LastRehearsal, last_rehearsal
from .rehearsal.verdict import state_title

_EYES: dict[Vision, str] = {
    "protan": tr("without red cones (protan)"),
    "deutan": tr("without green cones (deutan)"),
    "tritan": tr("without blue cones (tritan)"),
}
_MOST_ROWS = 4000
_STYLE = """
:root { color-scheme: light; }
body { font: 16px/1.5 "Atkinson Hyperlegible", system-ui, sans-serif; color: #1c1d1f; background: #ffffff;
  max-width: 62rem; margin: 2rem auto; padding: 0 1.5rem; }
h1 { font-size: 2rem; line-height: 1.2; margin: 0 0 .25rem; } h2 { font-size: 1.35rem; margin: 2.2rem 0 .5rem; }
h3 { font-size: 1.05rem; margin: 1.4rem 0 .4rem; } p { margin: .4rem 0; }
table { border-collapse: collapse; width: 100%; margin: .5rem 0 1rem; } caption { text-align: left; font-weight: 600; }
th, td { text-align: left; padding: .3rem .6rem; border-bottom: 1px solid #c9cbce; vertical-align: middle; }
th { font-size: .9rem; } td.n { font-variant-numeric: tabular-nums; text-align: right; white-space: nowrap; }
.sample { display: inline-block; min-width: 9rem; padding: .25rem .6rem; border: 1px solid #c9cbce; }
.edge { display: inline-block; width: 9rem; height: 1.9rem; border-radius: 4px; border: 3px solid; }
.sum { display: grid; grid-template-columns: repeat(auto-fit, minmax(11rem, 1fr)); gap: 1rem; margin: 1rem 0; }
.sum div { border: 1px solid #c9cbce; border-radius: 6px; padding: .7rem 1rem; }
.sum strong { display: block; font-size: 1.6rem; line-height: 1.2; }
.short { font-weight: 700; } .swatches { display: flex; flex-wrap: wrap; gap: .4rem; padding: 0; list-style: none; }
.swatches li { border: 1px solid #c9cbce; border-radius: 4px; padding: .3rem .6rem; font-size: .9rem; }
@media print { body { max-width: none; margin: 0; font-size: 11pt; } h2, h3 { break-after: avoid; }
  tr { break-inside: avoid; } .page { break-before: page; } * { print-color-adjust: exact; } }
"""


@dataclass(frozen=True, slots=True)
class Report:
    """What is reported: name and what it is made of, the pairs of both halves, and the roles by tone where known.

    tried: what real programs showed of either half, where they were tried.
    """

    name: str
    made_of: str
    findings: tuple[Finding, ...]
    roles: Mapping[Tone, Mapping[str, Rgba]]
    text_need: float = TEXT.level
    tried: tuple[LastRehearsal, ...] = ()

    @property
    def short(self) -> list[Finding]:
        """Return the pairs that have insufficient contrast, worst first."""
        return [f for f in self.findings if not f.passes]

    @property
    def tones(self) -> list[str]:
        """Return the halves that were judged."""
        return list(dict.fromkeys(f.tone for f in self.findings))


def report_of_look(look: Look, files: Files, only: Collection[str] | None = None) -> Report:
    """Return what can be said of a look on a home's files, both halves of it; only: the components that are judged."""
    chosen = every_component(look) if only is None else frozenset(only)
    halves = {tone: dress(with_tone(look, tone), files, chosen) for tone in TONES}
    found = sorted((f for dressed in halves.values() for f in prove(dressed)), key=lambda f: f.shortfall)
    made = Path(look.source).name if look.source else look.origin.title if look.origin else ""
    roles = {tone: dict(look.palettes[tone]) for tone in TONES}
    tried = (last_rehearsal(with_tone(look, tone)) for tone in TONES)
    return Report(look.name, made, tuple(found), roles, look.temper.text_need, tuple(filter(None, tried)))


def report_of_folder(name: str, files: Files) -> Report:
    """Return what can be said of a folder's files as they lie there."""
    return Report(name, "", findings(as_it_is(files), Behind(PLAIN), "as found"), {})


def as_html(report: Report) -> str:
    """Return the report as one page. What comes from outside is escaped."""
    title = tr("Readability of {name}").format(name=report.name)
    body = [_head(report, title), _method(report), *_tried(report), _short(report), *_tones(report), *_eyes(report)]
    return (
        f'<!DOCTYPE html>\n<html {html_language()}>\n<head>\n<meta charset="utf-8" />\n'
        f'<meta name="viewport" content="width=device-width, initial-scale=1" />\n<title>{escape(title)}</title>\n'
        f"<style>{_STYLE}</style>\n</head>\n<body>\n<main>\n" + "\n".join(body) + "\n</main>\n</body>\n</html>\n"
    )


def _head(report: Report, title: str) -> str:
    rows, short = report.findings, report.short
    texts = [f for f in rows if f.what == "text" and f.need.kind == "text"]
    least = min((f.ratio for f in texts), default=0.0)
    parts = (
        (f"{len(rows)}", tr("pairs checked")),
        (f"{len(rows) - len(short)}", tr("with enough contrast")),
        (f"{len(short)}", tr("with insufficient contrast")),
        (as_ratio(least), tr("the lowest contrast of any text")),
    )
    boxes = "".join(f"<div><strong>{a}</strong> {b}</div>" for a, b in parts)
    verdict = (
        tr("Every pair reaches its required contrast.")
        if not short
        else plural(
            "{count} pair is below its required contrast.",
            "{count} pairs are below their required contrast.",
            len(short),
        )
    )
    halves = tr("Variants: {variants}.").format(variants=listed([tone_word(tone) for tone in report.tones]))
    made = tr("From {source}.").format(source=report.made_of) + " " if report.made_of else ""
    top = f"<h1>{escape(title)}</h1>\n<p>{escape(made + halves)}</p>"
    return f'{top}\n<p class="short">{escape(verdict)}</p>\n<div class="sum">{boxes}</div>'


def _half(tone: str) -> str:
    return {"dark": tr("Dark"), "light": tr("Light")}.get(tone, tone_word(tone))


def _method(report: Report) -> str:
    words = tr(
        "Colours were read back from the files that the components write, states included, and "
        "composited as they are drawn: translucent surfaces over the worst place of what lies below. "
        "The contrast is that of WCAG 2.2. Text requires {need:g} to 1, edges and marks with a "
        "meaning 3 to 1, disabled elements 2.5 to 1."
    ).format(need=report.text_need)
    told = sentences(words, *(as_sentence(titled(m.title, m.tip)) for m in FURTHER))
    title = tr("What was checked, and how")
    return f"<h2>{escape(title)}</h2>\n<p>{escape(told)}</p>"


def _short(report: Report) -> str:
    if not report.short:
        return ""
    title = tr("Insufficient contrast")
    head = f"<h2>{escape(title)}</h2>\n"
    return head + _table(report.short, tr("Pairs with insufficient contrast, worst first"), True)


def _tried(report: Report) -> list[str]:
    """Return what real programs showed, a table for each half that was tried."""
    head = (tr("Program"), tr("Version"), tr("Result"))
    return [
        _framed(
            tr("Real programs with this look, tried on {when}").format(when=moment(tried.when)),
            head,
            (
                f"<tr><td>{escape(row.program)}</td><td>{escape(row.version or '–')}</td>"
                f"<td>{escape(state_title(row.state))}</td></tr>"
                for row in tried.programs
            ),
        )
        for tried in report.tried
    ]


def _tones(report: Report) -> list[str]:
    out = []
    for tone in report.tones:
        rows = [f for f in report.findings if f.tone == tone]
        out.append(f'<h2 class="page">{escape(_half(tone))}</h2>')
        own = next((roles for known, roles in report.roles.items() if known == tone), None)
        if own is not None:
            out.append(_swatches(own))
        by: dict[str, list[Finding]] = {}
        for f in rows[:_MOST_ROWS]:
            by.setdefault(f.component, []).append(f)
        for component, found in by.items():
            known = COMPONENT_BY_ID.get(component)
            name = known.title if known is not None else component
            out.append(f"<h3>{escape(name)}</h3>")
            caption = plural(
                "{name}, {tone}: {count} pair",
                "{name}, {tone}: {count} pairs, closest to the required contrast first",
                len(found),
                name=name,
                tone=tone_word(tone),
            )
            out.append(_table(found, caption, False))
    return out


def _swatches(roles: Mapping[str, Rgba]) -> str:
    rows = []
    for role, colour in roles.items():
        style = f"background-color:{colour.opaque.hex};color:{plain_ink(colour.opaque).hex}"
        rows.append(f'<li style="{style}">{escape(role_title(role))} {colour.hex}</li>')
    return f'<ul class="swatches">{"".join(rows)}</ul>'


def _table(rows: Iterable[Finding], caption: str, tone: bool) -> str:
    more_heads = (tr("Component"), tr("Variant")) if tone else ()
    head = (
        tr("Sample"),
        tr("Part"),
        *more_heads,
        tr("Colours"),
        tr("Ratio"),
        tr("Required"),
        *(m.title for m in FURTHER),
    )
    cells = []
    for f in rows:
        known = COMPONENT_BY_ID.get(f.component)
        more = [escape(known.title if known else f.component), escape(tone_word(f.tone))] if tone else []
        words = [
            _sample(f),
            escape(f.words),
            *more,
            tr("{text} on {surface}").format(text=f.text.opaque.hex, surface=f.surface.opaque.hex),
        ]
        mark = "" if f.passes else " " + escape(tr("(insufficient)"))
        figures = [f"{decimal(f.ratio, 2)}{mark}", spelled(f"{f.need.level:g}")]
        figures += [m.spelled(m.of(f.text.opaque, f.surface.opaque)) for m in FURTHER]
        numbers = "".join(f'<td class="n">{figure}</td>' for figure in figures)
        cells.append("<tr>" + "".join(f"<td>{w}</td>" for w in words) + numbers + "</tr>")
    return _framed(caption, head, cells)


def _framed(caption: str, head: Iterable[str], rows: Iterable[str]) -> str:
    titles = "".join(f'<th scope="col">{escape(t)}</th>' for t in head)
    top = f"<caption>{escape(caption)}</caption><thead><tr>{titles}</tr></thead>"
    return f"<table>{top}<tbody>{''.join(rows)}</tbody></table>"


def _sample(f: Finding) -> str:
    """Return a pair as it looks; for those who do not see it, the words beside it say the same."""
    surface, text = f.surface.opaque.hex, f.text.opaque.hex
    if f.what == "edge":
        return f'<span class="edge" aria-hidden="true" style="background-color:{surface};border-color:{text}"></span>'
    style = f"background-color:{surface};color:{text}"
    off = ' aria-disabled="true"' if f.need.kind == "disabled" else ""  # what cannot be used may be fainter
    words = tr("Sample text")
    return f'<span class="sample" aria-hidden="true"{off} style="{style}">{escape(words)}</span>'


def _eyes(report: Report) -> list[str]:
    told = tr("Contrast as seen with one kind of cone missing, and roles that differ by hue alone.")
    title = tr("With other colour vision")
    out = [
        f'<h2 class="page">{escape(title)}</h2>',
        f"<p>{escape(told)}</p>",
    ]
    rows = []
    for vision in (v for v in VISIONS if v in _EYES):
        seen = [
            (f, ratio(simulate_colour(f.text.opaque, vision), simulate_colour(f.surface.opaque, vision)))
            for f in report.findings
        ]
        below = [f for f, r in seen if not f.need.met(r)]
        least = min((r for f, r in seen if f.what == "text" and f.need.kind == "text"), default=0.0)
        mixed = escape(_mixed(report, vision) or tr("none"))
        numbers = f'<td class="n">{decimal(least, 2)}</td><td class="n">{len(below)}</td>'
        rows.append(f'<tr><th scope="row">{escape(_EYES[vision])}</th>{numbers}<td>{mixed}</td></tr>')
    head = (
        tr("Colour vision"),
        tr("Lowest of any text"),
        tr("Pairs below the required contrast"),
        tr("Roles that look alike"),
    )
    out.append(_framed(tr("The same pairs with other colour vision"), head, rows))
    return out


def _mixed(report: Report, vision: Vision) -> str:
    names = [
        with_note(listed([role_title(c.first), role_title(c.second)]), tone_word(tone))
        for tone in TONES
        if tone in report.roles
        for c in confusions(report.roles[tone], vision)
    ]
    return some(names, 8)
