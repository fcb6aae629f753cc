"""What a component is: rows of data, a writer and a reader. No colours of its own."""

from __future__ import annotations

import re
from collections.abc import Callable, Collection, Mapping
from dataclasses import dataclass, field
from typing import Any, NamedTuple, Self

from ..colour.requirement import NONE, TEXT, Requirement
from ..colour.rgb import Rgba
from ..language import tr
from ..palette.recipe import Tone
from ..palette.veil import KIND_BY_ID, KIND_OF_ROLE, SurfaceKind, as_drawn, faces
from ..picture.backdrop import PLAIN, Backdrop
from ..recolour.rewrite import RecolourSubject
from ..syntax.cascade import PaintedNode
from .bar_patterns import BarPatterns
from .decisions import Decisions, Owner, decided
from .files import Files, OutFile
from .options import options_of
from .rehearsal import Rehearsal


class ComponentSetting(NamedTuple):
    """A setting of a desktop or a program that chooses a component's files, or holds its colours.

    store, kind: as in `session.base.DesktopSetting`; of: schema, key and usual value of another setting, which stands
    for {of} in the schema.
    """

    schema: str
    key: str
    value: str
    title: str
    store: str = "gsettings"
    kind: str = ""
    of: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True, kw_only=True)
class Part:
    """One thing that a component draws, in one state, and the contrast it needs.

    at: where the reader finds it: a path of style sheet nodes, or for keyed files nothing;
    text, fill, edge: keys of a keyed file; text_role, fill_role, edge_role, around_role: the roles or shades behind
    them, and behind what is around the part;
    need: what the text needs on what is under it, NONE for no text; edge_need: the same for the edge against its
    surroundings; under: the part below, for keyed files; on_picture: whether the picture may shine through;
    surface: the kind of surface, where it is another than that of the role behind the fill.
    """

    id: str
    state: str = ""
    at: str = ""
    text: str = ""
    fill: str = ""
    edge: str = ""
    text_role: str = ""
    fill_role: str = ""
    edge_role: str = ""
    around_role: str = ""
    need: Requirement = TEXT
    edge_need: Requirement = NONE
    under: str = ""
    on_picture: bool = False
    place: str = "everywhere"
    surface: str = ""

    @property
    def veil(self) -> SurfaceKind | None:
        """Return the kind of surface that its fill is, None for one that is always opaque."""
        return KIND_BY_ID.get(self.surface) or KIND_OF_ROLE.get(self.fill_role)

    @property
    def key(self) -> str:
        """Return "id" or "id:state"."""
        return f"{self.id}:{self.state}" if self.state else self.id


class Paint(NamedTuple):
    """What a file says of a part: its own fill, its text and its edge; None where it says nothing.

    below: the candidates of every fill underneath, outermost first, each a single colour or a gradient's stops.
    """

    fill: Rgba | None = None
    text: Rgba | None = None
    edge: Rgba | None = None
    below: tuple[tuple[Rgba, ...], ...] = ()
    own: tuple[Rgba, ...] = ()

    @property
    def layers(self) -> tuple[tuple[Rgba, ...], ...]:
        """Return the candidates of every fill, this part's own included, outermost first."""
        return (*self.below, self.own or ((self.fill,) if self.fill is not None else ()))


Paints = Mapping[str, Paint]


def painted(value: PaintedNode) -> Paint:
    """Turn what a style sheet says of a place into a Paint."""
    return Paint(value.fill, value.text, value.edge, value.fills[:-1], value.fills[-1] if value.fills else ())


OWN = "own-"  # what the ids of components that a person makes begin with

# What a component may have beyond colours, all alike or one otherwise.
SHAPE_OPTIONS = ("radius", "edge", "gaps", "density", "font", "fixed_font")


@dataclass(frozen=True, slots=True)
class Scheme:
    """All that a component needs to know of a look.

    name: shown to people; folder: safe as a file name; mend: whether pairs of rewritten files that fail
    are put right; text_need: the ratio that text has to reach; opacity: by kind of surface, as it is to be drawn,
    absent where opaque or left as found; blur: whether the desktop blurs what is behind; companions: shape and fonts
    that a person asked for; decisions: what a person decided of single components; twin: the folder of the other tone
    where that is written too; beside: whether this is the tone that lies beside the one in force.
    """

    name: str
    folder: str
    tone: Tone
    colours: Mapping[str, Rgba]
    backdrop: Backdrop = PLAIN
    mend: bool = True
    text_need: float = TEXT.level
    opacity: Mapping[str, float] = field(default_factory=dict)
    blur: bool = False
    companions: Mapping[str, str] = field(default_factory=dict)
    decisions: Mapping[Owner, Decisions] = field(default_factory=dict)
    twin: str = ""
    beside: bool = False

    def decided(self, component: str) -> Decisions:
        """Return what a person decided of a component."""
        return decided(self.decisions, Owner.component(component))

    def options_for(self, component: str) -> dict[str, str]:
        """Return the words for shape and fonts that a component is to have: its own before those of all."""
        return options_of({**self.companions, **self.decided(component).companions})

    @property
    def plain_name(self) -> str:
        """Return the name as it may stand in any file."""
        return plain_name(self.name, self.folder)

    def faces(self, role: str) -> tuple[Rgba, ...]:
        """Return every opaque colour that a surface can show over what lies behind it."""
        return faces(self.colours, role, self.opacity, self.backdrop, self.blur)

    def drawn(self, role: str) -> Rgba:
        """Return a surface's colour as it is to be written: with its opacity."""
        return as_drawn(self.colours, role, self.opacity)


_ODD = re.compile(r"[^\w .,()+-]+")
_MOST_NAME = 80


def plain_name(name: str, otherwise: str = "") -> str:
    """Return a name in letters that no format takes for more than that, however it came here."""
    return " ".join(_ODD.sub(" ", name).split())[:_MOST_NAME] or otherwise


@dataclass(frozen=True, slots=True, kw_only=True)
class Knob:
    """A number of a component that a person sets: its range, where it starts, and the unit shown behind it."""

    id: str
    title: str
    low: float
    high: float
    start: float
    step: float = 1.0
    unit: str = ""


class ReloadMethod(NamedTuple):
    """One way in which a running program is told to follow.

    how: "signal" (its name in `words`) to the person's own processes of one executable; "command", a control command
    that the program answers; "bus", a call without arguments on the session bus (name, path, interface, method);
    "emit", a signal on that bus (path, interface, member, the arguments' signature, each argument); "again", started
    anew with the words that a file from the home starts it with, or without any where `words` is empty;
    program: the executable that has to run; check: a command that must accept the file first, since the program
    itself would end or stay silent over a bad one.
    """

    how: str
    program: str
    words: tuple[str, ...]
    check: tuple[str, ...] = ()

    @classmethod
    def of(cls, row: Mapping[str, Any]) -> Self:
        """Return the way that a row of a data file says; raises ValueError or KeyError when it says none."""
        if row["how"] not in _HOW:
            raise ValueError(
                tr("“{row}” is not a reload method: {names}").format(row=row["how"], names=", ".join(_HOW))
            )
        return cls(row["how"], row["program"], tuple(row["words"]), tuple(row.get("check", ())))


_HOW = ("signal", "command", "bus", "emit", "again")


@dataclass(frozen=True, slots=True, kw_only=True)
class Component:
    """One thing that can be dressed.

    reads: who reads the files, for people; effect: what must be done for it to show: "at once", "reload", "restart";
    restart: the sentence about that; write(scheme, get) returns the files, given what is there already; read(get) says
    what the files in place draw. Both are pure. rewrites: whether files of the person's own are recoloured; needs_file:
    what that is, in words; scene, layout: which part of the stage shows it, and how it lies there; edge: patterns by
    which its own file tells that it lies below, above, and where it lies else; items: what stands on it; programs,
    signs: commands and files that tell that a home has it; everywhere: whether every home has it; exported: whether it
    is only prepared, with instructions; roles: what its own files are made of, which a person may exchange; knobs:
    numbers that a person sets; after: components whose files it has to see; twins: those whose themes lie beside in
    the other tone where it is, for a desktop that changes by itself; tried: the version of the real reader that
    has read such a file; settings: those that choose its files on a desktop, with {folder} and {tone} for the look's;
    colour_settings(scheme, get): those that hold its colours; told: what tells by files of the machine which form its
    reader wants, by word; write_as(scheme, get, words): the files in the form of such words; follow: how running
    programs are told, each that runs; shape: what it has beyond colours (SHAPE_OPTIONS); covers: programs that follow
    with it and are looked for by their name; restarts: what may be ended and started again when the person asks, and
    the words that start it (none where it is started by whoever needs it); resources: its file whose lines are X
    resources, set in the server too; further: further files of the same kind, by path, for the proof; colours: every
    role and shade as its files are written; origin: the file that is recoloured into another place; subject: the first
    file that is recoloured with its groups, some of them taken apart, None where the home has none; places: patterns of
    all files that it may write; plain_lines: those of them whose readers refuse lines that end as on other systems;
    received: whether it came from somebody else, and may only recolour plain files; rehearsals: how its programs are
    tried.
    """

    id: str
    title: str
    kind: str
    reads: str
    effect: str
    restart: str
    parts: tuple[Part, ...]
    write: Callable[[Scheme, Files], tuple[OutFile, ...]]
    read: Callable[[Files], Paints]
    rewrites: bool = False
    needs_file: str = ""
    scene: str = ""
    layout: str = ""
    edge: tuple[str, str, str] | None = None
    items: BarPatterns | None = None
    programs: tuple[str, ...] = ()
    signs: tuple[str, ...] = ()
    everywhere: bool = False
    exported: bool = False
    roles: tuple[str, ...] = ()
    knobs: tuple[Knob, ...] = ()
    after: tuple[str, ...] = ()
    twins: tuple[str, ...] = ()
    tried: str = "not tried"
    settings: tuple[ComponentSetting, ...] = ()
    colour_settings: Callable[[Scheme, Files], tuple[ComponentSetting, ...]] | None = None
    told: Mapping[str, tuple[tuple[str, str, str], ...]] = field(default_factory=dict)
    write_as: Callable[[Scheme, Files, Collection[str]], tuple[OutFile, ...]] | None = None
    follow: tuple[ReloadMethod, ...] = ()
    restarts: tuple[str, ...] = ()
    shape: tuple[str, ...] = ()
    covers: tuple[str, ...] = ()
    resources: str = ""
    further: Callable[[Files], Mapping[str, Paints]] | None = None
    colours: Callable[[Scheme, Files], Mapping[str, Rgba]] | None = None
    subject: Callable[[Files, frozenset[str]], RecolourSubject | None] | None = None
    origin: Callable[[Files], str] | None = None
    places: tuple[str, ...] = ()
    plain_lines: tuple[str, ...] = ()
    received: bool = False
    rehearsals: tuple[Rehearsal, ...] = ()
    by_key: Mapping[str, Part] = field(init=False)

    def __post_init__(self) -> None:
        object.__setattr__(self, "by_key", {part.key: part for part in self.parts})
