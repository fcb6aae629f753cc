"""What a rehearsal is made from: the acts, and the files that are prepared for them before and with a look."""

from __future__ import annotations

import os
import re
import shutil
import sys
from collections.abc import Collection, Iterable
from dataclasses import replace
from functools import cache, cached_property
from importlib.resources import files as resources
from pathlib import Path
from typing import NamedTuple

from ...components.catalogue import COMPONENT_BY_ID, COMPONENTS
from ...components.model import Component
from ...components.rehearsal import Rehearsal
from ...look.dressed import Dressed, dress
from ...syntax.ini import set_keys
from .room import HOME, Act
from .settings import with_settings

READY = "Reedholm"  # the folder of things made up for programs to show
_PICTURE = f"{READY}/picture.jpg"
_ACTS = f"{READY}/.acts"  # what starts in terminals, and what they answer
# The quickest that show every colour first.
_TERMINALS = ("xfce-terminal", "lxterminal", "kitty", "alacritty", "konsole", "terminal")
LIMIT_S, SLOW_S = 12.0, 30.0  # in which a program has painted
_MOST_LAID, _MOST_FILE, _MOST_FILES = 40 << 20, 2 << 20, 400
_SECRET = re.compile(
    r"(^|/)(\.ssh|\.gnupg|\.pki|keyrings|kwalletd|\.password-store)(/|$)|cookies|logins\.json|key\d?\.db|"
    r"token|passw|secret",
    re.IGNORECASE,
)


class Row(NamedTuple):
    """One thing to try: its id, the component, and how."""

    id: str
    component: Component
    how: Rehearsal


def available(row: Rehearsal) -> bool:
    """Tell whether all that a rehearsal needs is installed, and its program is no other that goes by the same name."""
    more = ("sway", "grim") if row.on == "wayland" else ()
    found = shutil.which(row.program)
    if found is None or not all(shutil.which(name) for name in (*row.needs, *more)):
        return False
    real = Path(os.path.realpath(found)).name
    return real == row.program or real not in _tried_programs()


@cache
def _tried_programs() -> frozenset[str]:
    return frozenset(row.program for component in COMPONENTS for row in component.rehearsals)


def rows_of(dressed: Dressed, only: Collection[str] = (), slow: bool = False) -> list[Row]:
    """Return what can be tried of a dressed look: an id, the component, and how. only: ids of components."""
    out = []
    for component in dressed.components:
        if only and component.id not in only:
            continue
        for number, row in enumerate(component.rehearsals):
            if row.slow and not (slow or only):
                continue
            if row.config and row.config not in {f.path for f in dressed.files[component.id]}:
                continue  # it reads another file than those that the look writes
            id_ = component.id if not number else f"{component.id}-{number + 1}"
            out.append(Row(id_, component, row))
    return out


class Terminal:
    """The terminal in which programs of the terminal are tried: the first of the look's that is there."""

    def __init__(self, dressed: Dressed) -> None:
        ids = [*(i for i in _TERMINALS if i in dressed.files), *_TERMINALS]
        found = ((i, r) for i in dict.fromkeys(ids) for r in COMPONENT_BY_ID[i].rehearsals)
        self.component, row = next(((i, r) for i, r in found if "{page}" in r.run and available(r)), ("", None))
        self.row = row

    def words(self, script: str) -> str:
        """Return how it is started to run a script."""
        assert self.row is not None
        return self.row.run.replace("{page}", script)


def ready_files() -> dict[str, bytes]:
    """Return what programs are given to show, by its path from the home."""
    folder = resources("mellow_finch.proof.rehearsal").joinpath("ready")
    return {f"{READY}/{f.name}": f.read_bytes() for f in folder.iterdir() if f.is_file()}


def _laid_before(dressed: Dressed, components: Iterable[Component]) -> dict[str, bytes]:
    """Return the person's own files that components name, as they are now."""
    home = dressed.home
    paths = {p for p, data in dressed.seen.items() if data is not None and not p.startswith(("/", "~"))}
    for component in components:
        for pattern in (*component.places, *component.signs):
            if not pattern.startswith("/"):
                paths.update(home.find(pattern)[:_MOST_FILES])
    out: dict[str, bytes] = {}
    size = 0
    for path in sorted(paths):
        if _SECRET.search(path) or path.startswith("../"):
            continue
        data = home(path)
        if data is None or len(data) > _MOST_FILE or size + len(data) > _MOST_LAID:
            continue
        out[path] = data
        size += len(data)
    return out


_GTK = ".config/gtk-{}/settings.ini"


def _with_theme(laid: dict[str, bytes], folder: str) -> dict[str, bytes]:
    """Return files with the look's theme chosen for the toolkit, as a settings daemon would."""
    out = dict(laid)
    for generation in ("3.0", "4.0"):
        if any(f"/{folder}/gtk-{generation}/" in path for path in laid):
            path = _GTK.format(generation)
            text = laid.get(path, b"").decode("utf-8", "surrogateescape")
            named = set_keys(text, "Settings", {"gtk-theme-name": folder})
            out[path] = named.encode("utf-8", "surrogateescape")
    return out


def _acts(rows: Iterable[Row], dressed: Dressed, picture: bytes) -> tuple[list[Act], dict[str, bytes]]:
    """Return the acts of some rows, and what has to be prepared for them."""
    terminal, folder = Terminal(dressed), dressed.folder or dressed.look.folder
    laid = {**ready_files(), _PICTURE: picture}
    acts = []
    for id_, _, row in rows:
        out = f"{HOME}/{_ACTS}/{id_}.out"
        run = row.run.replace("{out}", out).replace("{picture}", f"{HOME}/{_PICTURE}")
        laid |= {path: text.encode() for path, text in row.lay.items()}
        config = ""
        if row.compositor:
            config = (dressed.view(row.config) or b"").decode("utf-8", "replace")
            run = run.replace("{config}", f"{HOME}/{row.config}")
        if row.on == "terminal" or row.asks:
            script = f"{_ACTS}/{id_}.sh"
            ask = f"'{sys.executable}' -B '{_ask_script()}' ~/{_ACTS}/{id_}.out 2>/dev/null\n" if row.asks else ""
            body = f". ~/{READY}/page.sh\n" if row.asks else f"{run}\nsleep 60\n"
            laid[script] = f"#!/bin/sh\ncd ~/{READY}\n{ask}{body}".encode()
            run = (
                terminal.words(f"{HOME}/{script}")
                if row.on == "terminal"
                else run.replace("{page}", f"{HOME}/{script}")
            )
        acts.append(
            Act(
                id_,
                run,
                row.program,
                "wayland" if row.on == "wayland" else "x11",
                tuple(words.replace("{folder}", folder) for words in row.first),
                row.then,
                row.keys,
                row.windows,
                out if row.asks or "{out}" in row.run else "",
                config,
                row.compositor,
                SLOW_S if row.slow else LIMIT_S,
            )
        )
    return acts, laid


def _ask_script() -> str:
    return str(resources("mellow_finch.proof.rehearsal").joinpath("ask_terminal.py"))


class Staged:
    """All that a rehearsal is made from."""

    def __init__(self, dressed: Dressed, home: Path, picture: bytes, rows: list[Row]) -> None:
        self.dressed, self.home, self.picture, self.rows = dressed, home, picture, rows
        for _, component, _ in rows:
            _ = dressed.paints[component.id]  # so that all that is read of the home was read
        components = [*{c.id: c for _, c, _ in rows}.values()]
        for id_ in ("gtk-3", "gtk-4", "kde", "terminal", Terminal(dressed).component):
            if id_ in COMPONENT_BY_ID and id_ not in {c.id for c in components}:
                components.append(COMPONENT_BY_ID[id_])
        self.before = _laid_before(dressed, components)
        self.acts, self.ready = _acts(rows, dressed, picture)
        self.after = self._after(dressed)

    def _after(self, dressed: Dressed) -> dict[str, bytes]:
        laid = {**self.before, **{o.path: o.data for o in dressed.outputs if not o.path.startswith("/")}}
        laid = _with_theme(laid, dressed.folder or dressed.look.folder)
        return with_settings(laid, dressed, [row for _, _, row in self.rows])

    @cached_property
    def other(self) -> dict[str, bytes]:
        """Return what another look lays: the same with its other half."""
        look = self.dressed.look
        turned = replace(look, tone="light" if look.tone == "dark" else "dark")
        only = frozenset(self.dressed.files)
        return self._after(dress(turned, self.dressed.home, only=only, folder=self.dressed.folder))

    def act(self, id_: str) -> Act:
        """Return an act by its id."""
        return next(a for a in self.acts if a.id == id_)
