"""How a component's program is tried in a hidden session: a row of data in its definition.

A row says what is run (in the folder of things made up for it), on which screen, what is done there, and which parts
have to be seen. `{page}` in `run` stands for a page of terminal colours, `{out}` for a file for a program's own answer.
"""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any, Literal, NamedTuple, Self

Screen = Literal["x11", "wayland", "terminal"]


class Rehearsal(NamedTuple):
    """One thing to try.

    program: the executable that has to be there; run: its words, for `on` a terminal those of a command in one; first,
    then: commands before it and after it; keys: what is pressed (names of keys, letters, "Control+x", "type:words");
    windows: whether two windows are opened for it to draw borders around; compositor: whether it is the newer
    display's own compositor; config: the component's file that it reads, without which it is not tried; lay: further
    files by their path; settings: of the desktop, by path and key, {folder} standing for the look's; needs: further
    executables; shows: parts that have to be seen, "part" or "part/fill" or "part/text";
    asks: whether it is a terminal that is asked for its colours; slow: whether it takes long; around: colours of
    what is no part of it (a film, a window's shadow), as #rrggbb; icons: whether it is filled with pictures of
    others, whose colours do not count.
    """

    program: str
    run: str
    on: Screen = "x11"
    first: tuple[str, ...] = ()
    then: tuple[str, ...] = ()
    keys: tuple[str, ...] = ()
    windows: bool = False
    compositor: bool = False
    config: str = ""
    lay: Mapping[str, str] = {}
    settings: Mapping[str, str] = {}
    needs: tuple[str, ...] = ()
    shows: tuple[str, ...] = ()
    asks: bool = False
    slow: bool = False
    around: tuple[str, ...] = ()
    icons: bool = False

    @classmethod
    def of(cls, row: Mapping[str, Any]) -> Self:
        """Return what a row of a definition says, which is of the types that the schema holds."""
        lists = ("first", "then", "keys", "needs", "shows", "around")
        given: dict[str, Any] = {name: tuple(value) if name in lists else value for name, value in row.items()}
        words = given["run"].split()
        return cls(**{"program": words[0] if words else "", **given})
