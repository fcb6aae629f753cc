"""The command that tells how things stand on this computer."""

from __future__ import annotations

from pathlib import Path

import click

from ..language import gigabytes, megabytes, moment, parted, plural, tr
from .home import history_of
from .parts import JSON_OPTION, home_options, in_a_sentence, print_json, say
from .wearing import session_of


@click.command()
@in_a_sentence
@home_options
@click.option(
    "--into",
    type=click.Path(path_type=Path, dir_okay=False),
    help=tr("Save everything, with the log, as a text file to send."),
)
@JSON_OPTION
def doctor(home: Path, into: Path | None, as_json: bool) -> None:
    """Report what runs here, what a look would set and reload, what will not follow, and the history."""
    from ..components.catalogue import COMPONENTS
    from ..components.define.guarded import set_aside
    from ..proof.rehearsal.last import newest_rehearsal
    from ..proof.rehearsal.room import missing, wall_words
    from ..session.desktop import desktop_named
    from ..wear.health import fault_report, room_on_disk, standing_of, system_lines
    from ..wear.plan import own_files
    from ..wear.present import present_here
    from ..wear.rollcall import programs_of as programs_for

    session = session_of(home)
    history = history_of(home, "doctor")
    standing = standing_of(history)
    desktop = desktop_named(session.desktop)
    present = present_here(home, own_files(home, history), history)
    here = [c for c in COMPONENTS if c.id in present]
    running = session.running({p for c in here for p in programs_for(c)})
    composites = session.compositor()
    outside = session.outside()
    tried = newest_rehearsal()
    titles = list(dict.fromkeys(row.title for row in desktop.rows)) if desktop is not None else []
    if as_json:
        print_json(
            {
                "home": str(home),
                "desktop": {"id": desktop.id, "title": desktop.title, "sets": titles} if desktop else None,
                "compositor": composites,
                "components": [
                    {"id": c.id, "title": c.title, "running": bool(programs_for(c) & running)} for c in here
                ],
                "will_not_follow": [row._asdict() for row in outside],
                "set_aside": [aside._asdict() for aside in set_aside()],
                "system": system_lines(),
                "rehearsed": None
                if tried is None
                else {
                    "look": tried.look,
                    "when": tried.when,
                    "programs": [
                        {"program": row.program, "version": row.version, "state": row.state} for row in tried.programs
                    ],
                },
                "history": {
                    "worn": standing.worn,
                    "taken_off": standing.undone,
                    "interrupted": standing.interrupted,
                    "damaged": standing.damaged,
                    "bytes": standing.size,
                },
            }
        )
        return
    if into is not None:
        from ..disk.write import save

        more = [
            f"desktop: {desktop.title if desktop is not None else 'not known'}",
            f"compositor: {composites}",
            f"can be dressed: {', '.join(c.id for c in here)}",
            f"running: {', '.join(sorted(running))}",
            *(f"set aside: {aside.file}: {aside.why}" for aside in set_aside()),
            *(f"will not follow: {row.title}: {', '.join(row.names)}" for row in outside),
        ]
        save(into, fault_report(home, history, more).encode("utf-8"))
        say(tr("“{into}” is safe to send: it contains no private paths.").format(into=into))
        return
    for line in system_lines():
        say(line)
    say(tr("Home folder: {size} free.").format(size=gigabytes(room_on_disk(home))))
    say(tr("History: {size} free.").format(size=gigabytes(room_on_disk(history.folder))))
    say(missing() or tr("Programs can be tried in a hidden session. {sentence}").format(sentence=wall_words()))
    if tried is not None:
        say(tr("Last tried: “{look}”, {when}.").format(look=tried.look, when=moment(tried.when)))
        say(
            plural(
                "{count} program tried: {good} as the look, {bad} with unreadable text.",
                "{count} programs tried: {good} as the look, {bad} with unreadable text.",
                len(tried.programs),
                good=tried.count("as_look"),
                bad=tried.count("unreadable"),
            )
        )
    say(
        tr("History: {applied} applied, {undone} undone, {size}").format(
            applied=standing.worn, undone=standing.undone, size=megabytes(standing.size, 1)
        )
    )
    if standing.interrupted:
        say(tr("A change was interrupted: “mellow-finch finish” completes it, “mellow-finch undo” undoes it."))
    if standing.damaged:
        say(tr("Some backups are damaged and were set aside; “mellow-finch status” names them."))
    say(tr("Desktop: {title}").format(title=desktop.title) if desktop is not None else tr("Desktop: not recognised"))
    if titles:
        say(tr("  a look sets: {names}").format(names=parted(titles)))
    known = {
        True: tr("running"),
        False: tr("not running, so translucent surfaces are drawn opaque"),
        None: tr("unknown"),
    }
    say(tr("Compositor: {known}").format(known=known[composites]))
    say(tr("Components found: {names}").format(names=parted(c.title for c in here)))
    say(tr("Running: {words}").format(words=parted(sorted(running)) or tr("none")))
    for aside in set_aside():
        say(tr("Your own component {file}: {why}").format(file=aside.file, why=aside.why))
    for row in outside:
        say(tr("Will not follow: {title}: {names}").format(title=row.title, names=parted(row.names)))
        say(f"  {row.why} {row.cure}")


COMMANDS = (doctor,)
