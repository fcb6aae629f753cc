"""Components of a person's own, read so that none of them can stand in the way of the program.

One that is wrong is set aside with a sentence when it is read, one that fails at its work when it does; the others go
on.
"""

from __future__ import annotations

import logging
from collections.abc import Callable, Collection
from dataclasses import replace
from functools import wraps
from typing import Any, NamedTuple

from ...disk.log import NAME
from ...errors import FinchError, ParseError
from ...language import tr
from ..model import Component
from .definition import defined
from .own import own_texts


class SetAside(NamedTuple):
    """A definition that is not used: its file, its component's id where that is known, and why."""

    file: str
    id: str
    why: str


_ASIDE: dict[str, SetAside] = {}
_FILES: dict[str, str] = {}  # by the id of the component that each defines


def set_aside() -> tuple[SetAside, ...]:
    """Return the definitions of a person's own that are not used, or that failed, with a sentence each."""
    return tuple(_ASIDE.values())


def file_of(id_: str) -> str:
    """Return the file of the folder of definitions in which a component is defined, empty for none of these."""
    return _FILES.get(id_, "")


def own_components(taken: Collection[str]) -> tuple[Component, ...]:
    """Return the components that a person has made. taken: ids that are somebody else's already."""
    _ASIDE.clear()
    _FILES.clear()
    out: dict[str, Component] = {}
    for file, text in own_texts():
        try:
            own = defined(text, checked=True)
        except FinchError as error:
            _ASIDE[file] = SetAside(file, "", str(error))
            continue
        except Exception as error:  # nothing that lies in that folder may keep the program from starting
            logging.getLogger(NAME).error("the definition %s", file, exc_info=error)
            _ASIDE[file] = SetAside(file, "", str(_broken(error)))
            continue
        if own.id in taken or own.id in out:
            words = tr("There is another component with the id “{id}”.").format(id=own.id)
            _ASIDE[file] = SetAside(file, own.id, words)
            continue
        _FILES[own.id] = file
        out[own.id] = guarded(own, file)
    return tuple(out.values())


def _broken(error: Exception) -> ParseError:
    return ParseError(tr("This definition does not work: {kind}.").format(kind=type(error).__name__))


def guarded(own: Component, file: str) -> Component:
    """Return a component whose faults are its own: where it fails it writes and says nothing, and is set aside."""

    def safe(work: Callable[..., Any] | None, otherwise: Any) -> Any:
        if work is None:
            return None

        @wraps(work)
        def run(*arguments: Any) -> Any:
            try:
                return work(*arguments)
            except FinchError as error:
                _ASIDE[file] = SetAside(file, own.id, str(error))
            except Exception as error:
                if file not in _ASIDE:
                    logging.getLogger(NAME).error("the component %s", own.id, exc_info=error)
                _ASIDE[file] = SetAside(file, own.id, str(_broken(error)))
            return otherwise

        return run

    return replace(
        own,
        write=safe(own.write, ()),
        read=safe(own.read, {}),
        further=safe(own.further, {}),
        colours=safe(own.colours, {}),
        subject=safe(own.subject, None),
        origin=safe(own.origin, ""),
    )
