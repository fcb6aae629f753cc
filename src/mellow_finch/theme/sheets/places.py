"""The toolkit's widgets as trees of nodes in their states: where the pairs of a toolkit theme are looked for.

A row is: name | path | states | what is judged. In a path, {s} stands for all that the state says and {p} for what
of it reaches inner nodes (disabled and idle do). "text" needs its contrast on what is under it, "edge" 3:1 against
its surroundings, "fill" 3:1 as a mark, "mark" 3:1 against the window around what it lies in; "round" edges are blurred by
drawing and get some more. Node names are those that the toolkit documents for its stylesheets.
"""

from __future__ import annotations

import re
from functools import cache
from importlib.resources import files

from ...colour.requirement import DISABLED, MARK, NONE, TEXT, Requirement
from ...components.model import Part

# A window whose borders the window manager draws, and for what differs there, those that draw their own.
_WINDOW = "window.background{w}"
_OWN_BORDERS = ("window.background.csd{w}", "window.background.solid-csd{w}")
_ALSO_THERE = re.compile(
    r"window text|dim text|link \||header|window buttons|flat button|menu bar|check words|check \||field \|"
)
_OLD = """
window text | label{s} | rest idle disabled | text
dim text | box > label.dim-label{s} | rest idle | text
link | box > label{p} > link{s} | link link+hover visited | text
word of error | label.error{s} | rest idle | text
word of warning | label.warning{s} | rest idle | text
word of success | label.success{s} | rest idle | text
button | button.text-button{s} > label{p} | rest hover pressed idle disabled checked checked+hover checked+idle focus | text
button with a picture | button.image-button{s} > image{p} | rest hover pressed idle checked | text
flat button | button.text-button.flat{s} > label{p} | rest hover pressed idle checked disabled | text
main button | button.text-button.suggested-action{s} > label{p} | rest hover pressed idle focus | text
delete button | button.text-button.destructive-action{s} > label{p} | rest hover pressed idle focus | text
linked buttons | box.linked > button.text-button{s} > label{p} | rest hover pressed checked idle | text
link button | button.text-button.link{s} > label{p} | rest link link+hover visited+link | text
raised button in a toolbar | toolbar > toolitem > button.flat{s} > label{p} | rest hover pressed idle checked | text
toolbar | toolbar{s} > label{p} | rest idle | text
toolbar with buttons | toolbar{s} > toolbutton{p} > button.flat{p} > box{p} > label{p} | rest idle | text
toolbar button | toolbar{p} > toolbutton{p} > button.flat{s} > label{p} | rest hover pressed idle checked | text
header bar title | headerbar.titlebar{s} > label.title{p} | rest idle | text
header bar subtitle | headerbar.titlebar{s} > box.vertical{p} > label.subtitle{p} | rest idle | text
header bar words | headerbar.titlebar{p} > box{p} > label{s} | rest idle | text
header button | headerbar.titlebar{p} > button.text-button{s} > label{p} | rest hover pressed checked idle disabled | text
header picture button | headerbar.titlebar{p} > button.image-button{s} > image{p} | rest hover pressed checked idle | text
header flat button | headerbar.titlebar{p} > button.text-button.flat{s} > label{p} | rest hover pressed checked idle | text
header main button | headerbar.titlebar{p} > button.text-button.suggested-action{s} > label{p} | rest hover pressed idle | text
header delete button | headerbar.titlebar{p} > button.text-button.destructive-action{s} > label{p} | rest hover pressed idle | text
header field | headerbar.titlebar{p} > entry{s} | rest focus idle | text edge
window buttons | headerbar.titlebar{p} > box.right{p} > button.titlebutton.close{s} > image{p} | rest hover pressed idle | text
header switcher | headerbar.titlebar{p} > stackswitcher.linked{p} > button.text-button{s} > label{p} | rest hover checked idle | text
header in selection | headerbar.titlebar.selection-mode{s} > label.title{p} | rest idle | text
selection button | headerbar.titlebar.selection-mode{p} > button.text-button{s} > label{p} | rest hover idle | text
search bar | searchbar{s} > revealer{p} > box{p} > label{p} | rest idle | text
action bar | actionbar{s} > revealer{p} > box{p} > label{p} | rest idle | text
action bar button | actionbar{p} > revealer{p} > box{p} > button.text-button{s} > label{p} | rest hover pressed idle | text
field | entry.flat{s} | none | text
field | entry{s} | rest hover focus idle disabled | text edge
field selection | entry:focus > selection{s} | rest focus | text
field in error | entry.error{s} | rest focus | text edge
field in warning | entry.warning{s} | rest focus | text edge
field picture | entry{s} > image{p} | rest idle | text
field progress | entry{s} > progress | none | text
number field | spinbutton.horizontal{s} > entry{p} | none | text
number field | spinbutton.horizontal{s} | rest hover focus idle disabled | text edge
number button | spinbutton.horizontal{p} > button.up{s} > image{p} | rest hover pressed idle | text
choice | combobox{p} > box.linked{p} > button.combo{s} > box{p} > cellview{p} | rest hover pressed idle disabled checked | text
choice with a field | combobox{p} > box.linked{p} > entry.combo{s} | rest focus idle | text edge
text view | textview.view{s} > text{p} | rest idle disabled | text
text selection | textview.view > text > selection{s} | rest focus | text
text selection, idle | textview.view:backdrop > text:backdrop > selection{s} | idle | text
icon view | iconview.view{s} | rest selected selected+idle idle | text
tree view | treeview.view{s} | rest hover selected selected+focus selected+idle idle disabled | text
tree head | treeview.view{p} > header{p} > button{s} > label{p} | rest hover pressed idle | text
list | list{s} > label{p} | rest idle | text
list row | list{p} > row.activatable{s} > label{p} | rest hover pressed selected selected+hover selected+idle idle | text
list row, dim | list{p} > row.activatable{s} > label.dim-label{p} | rest selected | text
list button | list{p} > row.activatable{p} > button.text-button{s} > label{p} | rest hover | text
list button, chosen row | list > row.activatable:selected > button.text-button{s} > label{p} | rest hover | text
sidebar | .sidebar{s} > label{p} | rest idle | text
sidebar row | .sidebar{p} > viewport{p} > list{p} > row{s} > label{p} | rest hover selected selected+idle idle | text
places row | placessidebar.sidebar{p} > viewport.frame{p} > list{p} > row.sidebar-row{s} > revealer{p} > box{p} > label.sidebar-label{p} | rest hover selected selected+idle idle | text
stack sidebar row | stacksidebar.sidebar{p} > scrolledwindow{p} > viewport{p} > list{p} > row{s} > label{p} | rest hover selected selected+idle | text
tab strip | notebook.frame{p} > header.top{s} > tabs{p} > label{p} | rest idle | text
tab | notebook.frame{p} > header.top{p} > tabs{p} > tab{s} > label{p} | rest hover checked checked+idle idle | text
tab, side | notebook{p} > header.left{p} > tabs{p} > tab{s} > label{p} | rest checked | text
tab button | notebook.frame{p} > header.top{p} > tabs{p} > tab{p} > button.flat{s} > image{p} | rest hover | text
page | notebook.frame{p} > stack{p} > label{s} | rest idle | text
frame | frame{p} > border{p} ; frame{p} > label{s} | rest idle | text
expander | expander{s} > box > label{p} | none | text
expander | expander{p} > title{s} > label{p} | rest hover idle | text
menu bar | menubar{s} > menuitem{p} > label{p} | rest idle | text
menu bar item | menubar{p} > menuitem{s} > label{p} | rest hover idle disabled | text
menu bar in a box | box.vertical{p} > menubar{p} > menuitem{s} > label{p} | rest hover idle | text
menu | menu{s} > label{p} | rest | text
menu item | menu{p} > menuitem{s} > label{p} | rest hover disabled | text
menu shortcut | menu{p} > menuitem{s} > accelerator{p} | none | text
menu shortcut | menu{p} > menuitem{s} > label{p} > accelerator{p} | rest hover | text
menu check | menu{p} > menuitem{p} > check{s} | rest checked | text
menu radio | menu{p} > menuitem{p} > radio{s} | rest checked | text
menu, context | menu.context-menu{p} > menuitem{s} > label{p} | rest hover | text
menu arrow | menu{p} > menuitem{s} > arrow{p} | rest hover | text
menu in its window | window.background.popup{p} > decoration ; window.background.popup{p} > menu{p} > menuitem{s} > label{p} | rest hover | text
popover | popover.background{s} > label{p} | rest idle | text
popover words | popover.background{p} > box{p} > label{s} | rest idle | text
popover, dim | popover.background{p} > box{p} > label.dim-label{s} | rest | text
popover button | popover.background{p} > box{p} > button.text-button{s} > label{p} | rest hover pressed idle | text
popover item | popover.background.menu{p} > box{p} > modelbutton.flat{s} > label{p} | none | text
popover item | popover.background{p} > box{p} > modelbutton.flat{s} > label{p} | rest hover pressed selected disabled | text
popover field | popover.background{p} > box{p} > entry{s} | rest focus | text edge
popover list | popover.background{p} > box{p} > list{p} > row.activatable{s} > label{p} | rest hover selected | text
message | infobar.info{p} > revealer{p} > box{s} > label{p} | rest idle | text
message of doubt | infobar.question{p} > revealer{p} > box{s} > label{p} | rest idle | text
message of warning | infobar.warning{p} > revealer{p} > box{s} > label{p} | rest idle | text
message of error | infobar.error{p} > revealer{p} > box{s} > label{p} | rest idle | text
message button | infobar.info{p} > revealer{p} > box{p} > button.text-button{s} > label{p} | rest hover | text
message of error, button | infobar.error{p} > revealer{p} > box{p} > button.text-button{s} > label{p} | rest hover | text
message of warning, button | infobar.warning{p} > revealer{p} > box{p} > button.text-button{s} > label{p} | rest hover | text
progress words | progressbar.horizontal{s} > text{p} | rest idle | text
progress words, plain | progressbar.horizontal{s} | rest idle | text
progress | progressbar.horizontal{p} > trough.empty{s} | rest idle | edge round
progress done | progressbar.horizontal{p} > trough{p} > progress{s} | rest idle | mark
level | levelbar.horizontal{p} > trough{s} | none | edge
level done | levelbar.horizontal{p} > trough{p} > block.filled{s} | rest idle | mark
level high | levelbar.horizontal{p} > trough{p} > block.filled.high{s} | rest | mark
level full | levelbar.horizontal{p} > trough{p} > block.filled.full{s} | rest | mark
level low | levelbar.horizontal{p} > trough{p} > block.filled.low{s} | rest | mark
slider | scale.horizontal{p} > contents{p} > trough{s} | rest idle | edge
slider done | scale.horizontal{p} > contents{p} > trough{p} > highlight{s} | rest hover idle | mark
slider words | scale.horizontal{s} > value{p} | rest idle | text
slider knob | scale.horizontal{p} > contents{p} > trough{p} > slider{s} | rest hover idle | edge round
switch | switch{s} | rest hover checked checked+hover idle checked+idle | edge round
switch knob | switch{s} > slider{p} | rest hover checked checked+hover idle checked+idle | edge round
switch knob in its window | switch{s} > slider{p} | rest hover checked checked+hover idle checked+idle | mark round
switch words | switch{s} > image{p} | none | text
check | checkbutton{p} > check{s} | rest hover checked checked+hover idle checked+idle | edge
check words | checkbutton.text-button{s} > label{p} | rest hover idle disabled | text
radio | radiobutton{p} > radio{s} | rest hover checked checked+hover idle checked+idle | edge round
radio words | radiobutton.text-button{s} > label{p} | rest hover idle disabled | text
check in a list | treeview.view.check{s} | none | text
calendar | calendar.view{s} | rest idle selected disabled | text
calendar head | calendar.header.view{s} | rest | text
calendar head | calendar.view.header{s} | none | text
calendar of another month | calendar.view{s} | indeterminate | quiet
calendar marks | calendar.highlight{s} | none | text
status bar | statusbar{p} > frame{p} > box{p} > label{s} | rest idle | text
floating bar | .floating-bar{s} > label{p} | rest | text
on-screen box | box.osd{s} > label{p} | rest idle | text
on-screen button | box.osd{p} > button.text-button{s} > label{p} | rest hover pressed | text
on-screen bar | toolbar.osd{p} > button.flat{s} > label{p} | none | text
notification in a program | frame.app-notification{s} > box{p} > label{p} | rest | text
colour button | colorbutton{p} > button.color{s} | none | edge
path bar | .path-bar.linked{p} > button.text-button{s} > label{p} | rest hover checked idle | text
dialog words | messagedialog.csd{p} > box.dialog-vbox{p} > box{p} > label{s} | none | text
dialog buttons | .dialog-action-area{p} > button.text-button{s} > label{p} | rest hover pressed idle | text
assistant | assistant{p} > box{p} > label{s} | none | text
"""
# What stands in a window of its own.
_WINDOWS = """
tooltip | tooltip.background{s} > box > label | rest | text
tooltip, older | window.background.tooltip.csd{s} > decoration ; window.background.tooltip.csd{s} > box > label | rest | text
menu window | window.background.popup > menu > menuitem{s} > label{p} | rest hover disabled | text
drop-down window | window.background.popup > menu.combo > menuitem{s} > cellview | rest hover | text
dialog | messagedialog.background.csd{s} > box.dialog-vbox{p} > label{p} | rest idle | text
dialog button | messagedialog.background.csd{p} > box.dialog-vbox{p} > box.dialog-action-box{p} > buttonbox.dialog-action-area{p} > button.text-button{s} > label{p} | rest hover pressed idle | text
title bar without a header | window.background.solid-csd{p} > headerbar.titlebar.default-decoration{s} > label.title{p} | rest idle | text
""".strip()

_PSEUDO = {
    "rest": "",
    "hover": ":hover",
    "pressed": ":hover:active",
    "idle": ":backdrop",
    "alone": ":backdrop",
    "disabled": ":disabled",
    "checked": ":checked",
    "selected": ":selected",
    "focus": ":focus",
    "link": ":link",
    "visited": ":visited",
    "indeterminate": ":indeterminate",
}
_ROUND = 1.12  # what a curved line of one pixel loses where it is blended with what lies around it
_PROPAGATE = ("idle", "disabled")


# Marks that have to be seen though a sheet says nothing of them: the toolkit itself draws none.
MUST_SHOW = frozenset(
    name
    for root in ("", "csd ", "solid-csd ")
    for name in (f"{root}level done", f"{root}progress done", f"{root}slider done", f"{root}switch")
)


# What lies around the widgets of the toolkit's own window of widgets, and is written as * in the list of its places.
AROUND = "window.background.solid-csd > scrolledwindow > viewport.frame > box.vertical > box.horizontal"
AROUND_4 = "window.background.csd > box.vertical"
_NEEDS = {"text": TEXT, "mark": MARK}


@cache
def nested_parts(generation: int = 3) -> tuple[Part, ...]:
    """Return the places as a generation of the toolkit nests them, which it told itself (`tools/toolkit_tree.py`)."""
    name = "toolkit_tree.txt" if generation == 3 else "toolkit_tree4.txt"
    around = AROUND if generation == 3 else AROUND_4
    rows = files("mellow_finch.theme.sheets").joinpath(name).read_text(encoding="utf-8").splitlines()
    cells = ([cell.strip() for cell in row.split("|")] for row in rows)
    return tuple(nested_part(w, s, what, place.replace("*", around, 1)) for w, s, what, place in cells)


def hull_of(at: str) -> int:
    """Return how many nodes of a place lie around the widgets in the toolkit's own window of them, 0 elsewhere."""
    return next((around.count(">") + 1 for around in (AROUND, AROUND_4) if at.startswith(around)), 0)


def nested_part(widget: str, state: str, what: str, place: str) -> Part:
    """Return the part of one place of the real toolkit: its name begins with "=", its last word is what is judged."""
    need = DISABLED if what == "text" and "disabled" in state else _NEEDS.get(what, NONE)
    return Part(
        id=f"={widget}, {what}",
        state="" if state == "rest" else state,
        at=place,
        text_role="window_text",
        fill_role="window",
        need=need,
        edge_need=MARK if what == "edge" else NONE,
        under="window" if what == "edge" and _FILLED.search(place) else "",
    )


_FILLED = re.compile(r"> (?:highlight|block)[^>]*$")  # seen against the window, not against what it fills


def all_parts() -> tuple[Part, ...]:
    """Return every place that a theme is judged by, those that the real toolkit told among them."""
    return (*toolkit_parts(), *nested_parts())


def must_show(part: Part) -> bool:
    """Tell whether a mark has to be seen though a sheet says nothing of it."""
    return part.id in MUST_SHOW or (part.id.startswith("=") and bool(part.edge_need))


def _edge_need(judged: str) -> Requirement:
    if not any(word in judged for word in ("edge", "fill", "mark")):
        return NONE
    return MARK.times(_ROUND) if "round" in judged else MARK


def _row(line: str, root: str) -> list[Part]:
    name, path, states, judged = (cell.strip() for cell in line.split("|"))
    path = path.rpartition(";")[2].strip()
    parts: list[Part] = []
    words_of_states = states.split()
    # Toolkits tell single widgets, too, that their window is idle, a moment before the rest of it.
    for state in [*words_of_states, *(["alone"] if "idle" in words_of_states else [])]:
        if state == "none":
            continue
        words = state.split("+")
        own = "".join(_PSEUDO[w] for w in words)
        spread = "".join(_PSEUDO[w] for w in words if w in _PROPAGATE)
        inner = "".join(_PSEUDO[w] for w in words if w in (*_PROPAGATE, "alone"))
        window = ":backdrop" if "idle" in words else ""
        full = f"{root} > {path}" if root else path
        above, _, below = full.partition("{s}")
        at = above.replace("{p}", spread).replace("{w}", window) + own + below.replace("{p}", inner)
        need = NONE
        if "text" in judged:
            need = DISABLED if "disabled" in words else TEXT
        elif "quiet" in judged:
            need = DISABLED
        parts.append(
            Part(
                id=name,
                state="" if state == "rest" else state.replace("+", ", "),
                at=at,
                text_role="window_text",
                fill_role="window",
                need=need,
                edge_need=_edge_need(judged) if "disabled" not in words else NONE,
                under="window" if "mark" in judged else "",
            )
        )
    return parts


@cache
def toolkit_parts() -> tuple[Part, ...]:
    """Return every place of the toolkit's third generation that a theme is judged by."""
    lines = _OLD.strip().splitlines()
    rows = [p for line in lines for p in _row(line, _WINDOW)]
    for root in _OWN_BORDERS:
        name = root.partition("{")[0].rpartition(".")[2]
        rows += [p for line in lines if _ALSO_THERE.match(line) for p in _row(f"{name} {line}", root)]
    rows += [p for line in _WINDOWS.splitlines() for p in _row(line, "")]
    return tuple({p.key: p for p in rows}.values())
