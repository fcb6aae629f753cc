"""The commands that write into a home and get back: wear, undo, finish, status."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import replace
from pathlib import Path
from typing import TYPE_CHECKING, Any

import click

from ..language import parted, plural, titled, tr
from .home import history_of, known_components
from .parts import JSON_OPTION, YES_OPTION, home_options, in_a_sentence, may_go_on, print_json, say

if TYPE_CHECKING:
    from ..look.dressed import Dressed
    from ..session.base import DesktopSession, NotifyResult
    from ..wear.history import History
    from ..wear.journal import Snapshot
    from ..wear.rollcall import Call


def session_of(home: Path) -> DesktopSession:
    from ..session.none import NoDesktop
    from ..session.real import session_for

    return session_for(home) or NoDesktop()


def _deciding(function: Callable[..., Any]) -> Callable[..., Any]:
    """Add the options by which a person decides about files that stand in the way."""
    for option in (
        click.option(
            "--leave-all", "--keep-all", is_flag=True, help=tr("Keep all files that cannot be restored as they are.")
        ),
        click.option("--leave", "--keep", multiple=True, help=tr("A file to keep as it is.")),
        click.option("--overwrite", multiple=True, help=tr("A file edited since, whose edits may be overwritten.")),
    ):
        function = option(function)
    return function


@click.command()
@in_a_sentence
@click.argument("look", type=click.Path(path_type=Path))
@home_options
@click.option("--without", multiple=True, help=tr("A component to leave out; can be repeated."))
@click.option(
    "--with",
    "more",
    multiple=True,
    help=tr("A component to include that is not set up here, or whose file would be new; can be repeated."),
)
@click.option(
    "--theme",
    "brought",
    multiple=True,
    type=click.Path(path_type=Path),
    help=tr("A theme to use in place of the look's own, in its colours; can be repeated."),
)
@click.option("--dry-run", is_flag=True, help=tr("Only list what would be done."))
@click.option(
    "--try",
    "seconds",
    type=click.IntRange(3, 3600),
    help=tr("Apply it for so many seconds; it is undone unless you keep it."),
)
@click.option("--files-only", is_flag=True, help=tr("Write files only; change no setting and request no reload."))
@_deciding
@YES_OPTION
@JSON_OPTION
def wear(
    look: Path,
    home: Path,
    without: tuple[str, ...],
    more: tuple[str, ...],
    brought: tuple[Path, ...],
    dry_run: bool,
    seconds: int | None,
    files_only: bool,
    overwrite: tuple[str, ...],
    leave: tuple[str, ...],
    leave_all: bool,
    yes: bool,
    as_json: bool,
) -> None:
    """Apply a look to a home folder: back up first, then write every file and setting, then request reloads."""
    from ..look.carry import load_look
    from ..look.decision_edits import with_added
    from ..look.dressed import dress as dress_look
    from ..look.worn_themes import using_theme, worn_themes
    from ..session.none import NoDesktop
    from ..wear.after import programs_after
    from ..wear.edits import edits_lost
    from ..wear.glass import as_drawn_here, nothing_blurs, nothing_composites
    from ..wear.journal import crowds
    from ..wear.names import plan_to_follow
    from ..wear.plan import own_files
    from ..wear.present import present_here
    from ..wear.rollcall import roll_call
    from ..wear.signs import unseen
    from ..wear.trial import give_back
    from ..wear.wear import put_on, settings_to_change
    from .trying import try_on

    history = history_of(home, "wear")
    session = NoDesktop() if files_only else session_of(home)
    if not dry_run:
        give_back(history, session)  # what is only tried makes room
    files = own_files(home, history)
    loaded = load_look(look)
    loaded = replace(loaded, left_out=loaded.left_out | known_components(without))
    loaded = with_added(loaded, known_components(more))
    present = present_here(home, files, history)
    for theme in brought:
        loaded = using_theme(loaded, theme, present)
    themes = worn_themes(loaded)
    held: Mapping[str, tuple[str, ...]] = {}

    def dressed_as(folder: str) -> Dressed:
        nonlocal held
        dressed = dress_look(as_drawn_here(loaded, session), files, present=present, folder=folder, themes=themes)
        held = dressed.held
        return dressed

    plan = plan_to_follow(dressed_as, loaded.folder, home, session, history)
    settings = settings_to_change(plan, session)
    missing = unseen(plan, loaded, home, flat=nothing_composites(loaded, session), sharp=nothing_blurs(loaded, session))
    edits = edits_lost(plan, history)
    if leave_all:
        leave = (*leave, *(found.path for found in edits if found.path not in overwrite))
    plan = replace(plan, writes=tuple(w for w in plan.writes if w.path not in leave))
    if not as_json:
        for w in plan.writes:
            say(f"{w.action:6}  {w.path}")
        for id_, paths in held.items():
            say(tr("skipped  {files}: it would be new (--with {component})").format(files=parted(paths), component=id_))
        for path in leave:
            say(tr("“{path}” stays as it is.").format(path=path))
        for found in edits:
            for line in found.lines if found.path not in leave else ():
                say(tr("your edit in {path} would be overwritten: {line}").format(path=found.path, line=line))
        for sign in missing:
            say(tr("missing  {title}: {what}. {action}").format(title=sign.title, what=sign.what, action=sign.cure))
        many = crowds(settings)
        for title, count in many.items():
            say(tr("set     {title}: {count} of them").format(title=title, count=count))
        for row in (row for row in settings if row.title not in many):
            say(f"set     {row.title or row.key}: {row.after}  ({row.schema} {row.key})")
        runs = session.running({way.program for _, way in plan.ways})
        for component, way in plan.ways:
            if way.program in runs:
                say(tr("reload  {program}, for {component}").format(program=way.program, component=component))
        for own in programs_after(history) if plan.writes or settings else ():
            say(tr("run     {program}, when everything is applied").format(program=own))
    snapshot = None
    stopped = False
    heard: dict[str, NotifyResult] = {}
    if not dry_run:
        question = plural(
            "Write {count} file into “{home}”?", "Write {count} files into “{home}”?", len(plan.writes), home=home
        )
        stopped = bool(plan.writes or settings) and not may_go_on(question, yes)
        if not stopped:

            def put() -> Snapshot | None:
                return put_on(plan, history, session, heard=heard, overwrite=overwrite, leave=leave)

            if seconds is not None:
                if try_on(put, home, history, session, seconds) is None:
                    return
                snapshot = history.last_worn()
            else:
                snapshot = put()
    calls = roll_call(snapshot, session, heard) if snapshot is not None else ()
    if as_json:
        rows = [
            {"path": w.path, "action": w.action, "component": w.component, "components": list(w.components)}
            for w in plan.writes
        ]
        chosen = [
            {"store": s.store, "schema": s.schema, "key": s.key, "value": s.after, "title": s.title} for s in settings
        ]
        print_json(
            {
                "writes": rows,
                "settings": chosen,
                "restart": list(plan.restart),
                "missing": [sign._asdict() for sign in missing],
                "edits": [found._asdict() for found in edits],
                "held": {id_: list(paths) for id_, paths in held.items()},
                "desktop": plan.desktop,
                "snapshot": snapshot.id if snapshot else None,
                "roll_call": _calls_json(calls),
            }
        )
    elif dry_run:
        say(
            plural(
                "{count} file would be written, {same} are already right.",
                "{count} files would be written, {same} are already right.",
                len(plan.writes),
                same=plan.same,
            )
        )
    elif stopped:
        say(tr("Nothing was changed."))
    elif snapshot is None:
        say(tr("Nothing to change."))
    else:
        _say_calls(calls)
        say(plural("{count} file written.", "{count} files written.", len(snapshot.files)))
        if settings:
            say(plural("{count} setting changed.", "{count} settings changed.", len(settings)))
        say(tr("“mellow-finch undo” restores everything as it was before."))


def _calls_json(calls: Sequence[Call]) -> list[dict[str, str]]:
    return [{"component": c.component, "title": c.title, "state": c.state, "words": c.words} for c in calls]


def _say_calls(calls: Sequence[Call]) -> None:
    """Print the roll call: each that needs the person, and how many do not."""
    from ..wear.rollcall import TITLES, counted

    for call in calls:
        if not call.settled:
            say(f"{TITLES[call.state].lower():16} {titled(call.title, call.words)}")
    if calls:
        say(counted(calls))


def _all_to_leave(snapshot: Snapshot, history: History, overwrite: tuple[str, ...]) -> tuple[str, ...]:
    from ..wear.wear import undecided_files

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
    """Undo the look applied last: the old files are restored exactly."""
    from ..errors import WearError
    from ..wear.trial import settle
    from ..wear.wear import undo_last

    history = history_of(home, "undo")
    settle(history, session_of(home))
    history.tidy()
    snapshot = history.last_worn()
    if snapshot is None:
        raise WearError(tr("No look is applied here, so there is nothing to undo."))
    new = sum(not row.before for row in snapshot.files)
    question = tr("Undo “{look}” in “{home}”: remove {new} files, restore {count}?").format(
        look=snapshot.look, home=home, new=new, count=len(snapshot.files) - new
    )
    if not may_go_on(question, yes):
        say(tr("Nothing was changed."))
        return
    if leave_all:
        leave = (*leave, *_all_to_leave(snapshot, history, overwrite))
    done = undo_last(history, session_of(home), overwrite, leave)
    _tell_left(done.left)
    count = len(done.snapshot.files) - len(set(leave) & set(done.snapshot.by_path))
    say(
        plural(
            "“{look}” was undone; {count} file is restored.",
            "“{look}” was undone; {count} files are restored.",
            count,
            look=done.snapshot.look,
        )
    )


@click.command()
@in_a_sentence
@home_options
@_deciding
@YES_OPTION
def finish(home: Path, overwrite: tuple[str, ...], leave: tuple[str, ...], leave_all: bool, yes: bool) -> None:
    """Complete an interrupted change, whether applying or undoing."""
    from ..errors import WearError
    from ..wear.status import status_of
    from ..wear.wear import finish as finish_change

    history = history_of(home, "finish")
    history.tidy()
    pending = history.pending()
    if pending is None:
        raise WearError(tr("Nothing was interrupted here, so there is nothing to complete."))
    say(status_of(history).words())
    if not may_go_on(tr("Complete it?"), yes):
        say(tr("Nothing was changed."))
        return
    if leave_all:
        leave = (*leave, *_all_to_leave(pending, history, overwrite))
    done = finish_change(history, session_of(home), overwrite, leave)
    _tell_left(done.left)
    say(
        (tr("“{look}” is applied.") if done.snapshot.status == "worn" else tr("“{look}” is undone.")).format(
            look=done.snapshot.look
        )
    )


@click.command()
@in_a_sentence
@home_options
@JSON_OPTION
def status(home: Path, as_json: bool) -> int:
    """Report what is applied, what waits and what does not follow; exit code 1 if a change was interrupted."""
    from ..wear.rollcall import roll_call
    from ..wear.status import status_of
    from ..wear.trial import settle

    history = history_of(home, "status")
    settle(history, session_of(home))
    history.tidy()
    found = status_of(history)
    calls = roll_call(found.worn, session_of(home)) if found.worn is not None else ()
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
                "roll_call": _calls_json(calls),
            }
        )
    else:
        say(found.words())
        if found.pending is not None:
            say(tr("“mellow-finch finish” completes it, “mellow-finch undo” undoes it."))
        for path in found.changed:
            say(tr("changed  {path}").format(path=path))
        for folder in found.broken:
            say(tr("The backups of an earlier look are damaged and were set aside: {folder}").format(folder=folder))
        if found.busy:
            say(tr("{busy} is changing this home folder now.").format(busy=found.busy))
        _say_calls(calls)
    return 1 if found.pending is not None or found.broken else 0


COMMANDS = (wear, undo, finish, status)
