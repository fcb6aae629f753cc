"""The commands that have to do with the files of a home: what it has, dressing, proof, wearing and the way back."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from pathlib import Path
from typing import TYPE_CHECKING, Any

import click

from .cli_parts import JSON_OPTION, YES_OPTION, check_into, home_options, in_a_sentence, may_go_on, print_json, say
from .errors import ParseError

if TYPE_CHECKING:
    from .session.base import Session
    from .wear.history import History
    from .wear.journal import Snapshot


def _history(home: Path, who: str) -> History:
    from .wear.history import History
    from .wear.places import history_folder

    return History(history_folder(home), who=f"The command “{who}”")


def _session(home: Path) -> Session:
    from .session.none import NoDesktop
    from .session.real import session_for

    return session_for(home) or NoDesktop()


@click.command()
@in_a_sentence
@home_options
@JSON_OPTION
def components(home: Path, as_json: bool) -> None:
    """List what can be dressed, and whether a home has it."""
    from .components.catalogue import COMPONENTS
    from .components.presence import presence_of
    from .session.programs import programs_of
    from .wear.plan import own_files

    has = programs_of(home)
    files = own_files(home, _history(home, "components"))
    found = [(c, presence_of(c, files, has)) for c in COMPONENTS]
    if as_json:
        rows = [
            {"id": c.id, "title": c.title, "kind": c.kind, "here": p.here, "why": p.why, "effect": c.effect}
            for c, p in found
        ]
        print_json({"components": rows})
        return
    for component, presence in found:
        say(f"{'+' if presence.here else ' '} {component.id:16} {component.title}: {presence.why}.")


def _known(names: tuple[str, ...]) -> frozenset[str]:
    from .components.catalogue import COMPONENT_BY_ID

    unknown = [c for c in names if c not in COMPONENT_BY_ID]
    if unknown:
        raise ParseError(f"There is no component “{unknown[0]}”.", hint=f"Known are {', '.join(COMPONENT_BY_ID)}.")
    return frozenset(names)


@click.command()
@in_a_sentence
@click.argument("look", type=click.Path(path_type=Path))
@click.option(
    "--into", required=True, type=click.Path(path_type=Path, file_okay=False), help="The folder to write into."
)
@click.option("--only", multiple=True, help="A component; may be given several times.")
@home_options
@YES_OPTION
def dress(look: Path, into: Path, only: tuple[str, ...], home: Path, yes: bool) -> None:
    """Write every component's files into a folder laid out like a home; touch nothing else."""
    from .disk.below import Below
    from .look.carry import load_look, look_text
    from .look.dressed import dress as dress_look
    from .look.dressed import every_component
    from .look.file import SUFFIX
    from .wear.plan import own_files

    chosen = _known(only)
    check_into(into, yes)
    loaded = load_look(look)
    files = own_files(home, _history(home, "dress"))
    dressed = dress_look(loaded, files, chosen or every_component(loaded))
    below = Below(into)
    below.write(f"{loaded.folder}{SUFFIX}", look_text(loaded, into).encode("utf-8"))
    for output in dressed.outputs:
        below.write(output.path, output.data)
        say(f"{', '.join(output.components)}: {output.path}")


@click.command()
@in_a_sentence
@click.argument("look", type=click.Path(path_type=Path))
@home_options
@JSON_OPTION
def proof(look: Path, home: Path, as_json: bool) -> int:
    """Judge every pair of a look, or of a folder of dressed files; exit code 1 when one falls short."""
    from .components.judge import Behind
    from .components.model import FolderFiles
    from .look.carry import load_look
    from .look.dressed import as_it_is, every_component
    from .look.dressed import dress as dress_look
    from .look.edits import with_tone
    from .look.file import SUFFIX
    from .palette.recipe import TONES
    from .picture.backdrop import PLAIN
    from .proof.proof import Finding, findings, prove
    from .wear.plan import own_files

    rows: list[Finding] = []
    if look.is_dir():
        beside = [load_look(p) for p in sorted(look.glob(f"*{SUFFIX}"))]
        behind, tone = (
            (Behind.of(beside[0].scheme()), beside[0].tone) if len(beside) == 1 else (Behind(PLAIN), "as found")
        )
        rows += findings(as_it_is(FolderFiles(look)), behind, tone)
    else:
        loaded = load_look(look)
        files = own_files(home, _history(home, "proof"))
        for tone in TONES:
            rows += prove(dress_look(with_tone(loaded, tone), files, every_component(loaded)))
    rows.sort(key=lambda f: f.shortfall)
    short = [f for f in rows if not f.passes]
    if as_json:
        print_json({"pairs": [_pair_as_json(f) for f in rows], "failing": len(short)})
    else:
        for f in short:
            say(f"{f.ratio:5.2f} of {f.need:g}  {f.component}: {f.words} ({f.tone})")
        say(f"{len(short)} of {len(rows)} pairs fall short." if short else f"All {len(rows)} pairs can be read.")
    return 1 if short else 0


def _pair_as_json(finding: object) -> dict[str, object]:
    from .proof.proof import Finding

    assert isinstance(finding, Finding)
    f = finding
    return {
        "tone": f.tone,
        "component": f.component,
        "part": f.part.id,
        "state": f.part.state,
        "text": f.text.hex,
        "surface": f.surface.hex,
        "ratio": round(f.ratio, 3),
        "need": f.need,
        "passes": f.passes,
    }


@click.command()
@in_a_sentence
@click.argument("look", type=click.Path(path_type=Path))
@home_options
@click.option("--without", multiple=True, help="A component to leave out; may be given several times.")
@click.option("--dry-run", is_flag=True, help="Only list what would be done.")
@YES_OPTION
@JSON_OPTION
def wear(look: Path, home: Path, without: tuple[str, ...], dry_run: bool, yes: bool, as_json: bool) -> None:
    """Put a look on a home: snapshot first, then every file."""
    from .components.presence import present_in
    from .look.carry import load_look
    from .look.dressed import dress as dress_look
    from .session.programs import programs_of
    from .wear.plan import make_plan, own_files
    from .wear.wear import put_on, settings_to_change

    history, session = _history(home, "wear"), _session(home)
    files = own_files(home, history)
    loaded = load_look(look)
    loaded = replace(loaded, left_out=loaded.left_out | _known(without))
    plan = make_plan(dress_look(loaded, files, present=present_in(files, programs_of(home))), home)
    settings = settings_to_change(plan, session)
    if not as_json:
        for w in plan.writes:
            say(f"{w.action:6}  {w.path}")
        for row in settings:
            say(f"set     {row.schema} {row.key}: {row.after}")
        for sentence in plan.restart:
            say(f"- {sentence}")
    snapshot = None
    stopped = False
    if not dry_run:
        question = f"Write {len(plan.writes)} files into “{home}”?"
        stopped = bool(plan.writes or settings) and not may_go_on(question, yes)
        if not stopped:
            snapshot = put_on(plan, history, session)
    if as_json:
        rows = [
            {"path": w.path, "action": w.action, "component": w.component, "components": list(w.components)}
            for w in plan.writes
        ]
        chosen = [{"schema": s.schema, "key": s.key, "value": s.after} for s in settings]
        print_json(
            {
                "writes": rows,
                "settings": chosen,
                "restart": list(plan.restart),
                "snapshot": snapshot.id if snapshot else None,
            }
        )
    elif dry_run:
        say(f"{len(plan.writes)} files would be written, {plan.same} are right already.")
    elif stopped:
        say("Nothing was changed.")
    elif snapshot is None:
        say("Nothing had to change.")
    else:
        changed = f" and {len(settings)} settings changed" if settings else ""
        say(f"{len(snapshot.files)} files written{changed}; “mellow-finch undo” gives the old ones back.")


def _deciding(function: Callable[..., Any]) -> Callable[..., Any]:
    """Add the options by which a person decides about files that stand in the way."""
    for option in (
        click.option("--leave-all", is_flag=True, help="Leave every file that cannot be put in place as it is."),
        click.option("--leave", multiple=True, help="A file that is left as it is."),
        click.option("--overwrite", multiple=True, help="A file that was edited since, whose edits may be lost."),
    ):
        function = option(function)
    return function


def _all_to_leave(snapshot: Snapshot, history: History, overwrite: tuple[str, ...]) -> tuple[str, ...]:
    from .wear.wear import undecided_files

    return tuple(path for path in undecided_files(snapshot, history) if path not in overwrite)


def _tell_left(left: tuple[str, ...]) -> None:
    for sentence in left:
        say(f"- {sentence}")


@click.command()
@in_a_sentence
@home_options
@_deciding
@YES_OPTION
def undo(home: Path, overwrite: tuple[str, ...], leave: tuple[str, ...], leave_all: bool, yes: bool) -> None:
    """Take the look off that was put on last: the exact old files come back."""
    from .errors import WearError
    from .wear.wear import undo_last

    history = _history(home, "undo")
    history.tidy()
    snapshot = history.last_worn()
    if snapshot is None:
        raise WearError("No look is worn here, so there is nothing to undo.")
    new = sum(not row.before for row in snapshot.files)
    question = f"Take “{snapshot.look}” off “{home}”: remove {new} files, put {len(snapshot.files) - new} back?"
    if not may_go_on(question, yes):
        say("Nothing was changed.")
        return
    if leave_all:
        leave = (*leave, *_all_to_leave(snapshot, history, overwrite))
    done = undo_last(history, _session(home), overwrite, leave)
    _tell_left(done.left)
    count = len(done.snapshot.files) - len(set(leave) & set(done.snapshot.by_path))
    say(f"“{done.snapshot.look}” was taken off; {count} files are as they were.")


@click.command()
@in_a_sentence
@home_options
@_deciding
@YES_OPTION
def finish(home: Path, overwrite: tuple[str, ...], leave: tuple[str, ...], leave_all: bool, yes: bool) -> None:
    """Finish a change that was interrupted, putting on or taking off."""
    from .errors import WearError
    from .wear.status import status_of
    from .wear.wear import finish as finish_change

    history = _history(home, "finish")
    history.tidy()
    pending = history.pending()
    if pending is None:
        raise WearError("Nothing was interrupted here, so there is nothing to finish.")
    say(status_of(history).words())
    if not may_go_on("Finish it?", yes):
        say("Nothing was changed.")
        return
    if leave_all:
        leave = (*leave, *_all_to_leave(pending, history, overwrite))
    done = finish_change(history, _session(home), overwrite, leave)
    _tell_left(done.left)
    say(f"“{done.snapshot.look}” is {'worn' if done.snapshot.status == 'worn' else 'taken off'}.")


@click.command()
@in_a_sentence
@home_options
@JSON_OPTION
def status(home: Path, as_json: bool) -> int:
    """Say what a home wears, and what waits; exit code 1 when a change was interrupted or a snapshot is damaged."""
    from .wear.status import status_of

    history = _history(home, "status")
    history.tidy()
    found = status_of(history)
    if as_json:
        worn, pending = found.worn, found.pending
        print_json(
            {
                "home": str(home),
                "worn": {"look": worn.look, "when": worn.when, "snapshot": worn.id} if worn else None,
                "changed": list(found.changed),
                "pending": {"look": pending.look, "snapshot": pending.id, "status": pending.status}
                if pending
                else None,
                "damaged": [str(p) for p in found.broken],
                "busy": found.busy,
            }
        )
    else:
        say(found.words())
        if found.pending is not None:
            say("“mellow-finch finish” finishes it, “mellow-finch undo” takes it back.")
        for path in found.changed:
            say(f"changed  {path}")
        for folder in found.broken:
            say(f"The kept files of an earlier look are damaged and were set aside: {folder}")
        if found.busy:
            say(f"{found.busy} is changing this home just now.")
    return 1 if found.pending is not None or found.broken else 0


COMMANDS = (components, dress, proof, wear, undo, finish, status)
