"""The same work without a window. Exit codes: 0 done, 1 findings, 2 wrong use or bad input."""

from __future__ import annotations

import json
import sys
from collections.abc import Callable
from functools import wraps
from pathlib import Path
from typing import Any

import click

from . import __version__
from .errors import FinchError, ParseError, file_errors

_MODES = ["fill", "fit", "stretch", "tile", "centre"]
_JSON = click.option("--json", "as_json", is_flag=True, help="Print stable JSON.")
_HOME = click.option(
    "--home", type=click.Path(path_type=Path, file_okay=False), help="The home folder; the demo home when not given."
)


def _out(data: object) -> None:
    click.echo(json.dumps(data, indent=1, ensure_ascii=False))


def _sentence(function: Callable[..., Any]) -> Callable[..., Any]:
    """Turn errors that people can cause into one line and exit code 2."""

    @wraps(function)
    def guarded(*args: Any, **kwargs: Any) -> Any:
        try:
            return function(*args, **kwargs)
        except FinchError as error:
            click.echo(f"mellow-finch: {error.line()}", err=True)
            sys.exit(2)

    return guarded


@click.group(invoke_without_command=True, context_settings={"help_option_names": ["-h", "--help"]})
@click.version_option(__version__, prog_name="Mellow Finch")
@click.pass_context
def app(context: click.Context) -> None:
    """One palette from a picture, every part of the desktop dressed in it, all of it readable, and a way back."""
    if context.invoked_subcommand is None:
        from .ui.app import run

        sys.exit(run())


@app.command()
@click.argument("pictures", nargs=-1, required=True, type=click.Path(path_type=Path))
@click.option("--swatches", default=8, show_default=True, type=click.IntRange(1, 64), help="How many colours.")
@_JSON
@_sentence
def gather(pictures: tuple[Path, ...], swatches: int, as_json: bool) -> None:
    """Show the colours of one or several pictures, with their shares."""
    from .picture.fit import in_common
    from .picture.gather import gather_loaded
    from .picture.load import load_picture
    from .picture.swatches import swatches_of

    loaded = [load_picture(p) for p in pictures]
    found = gather_loaded(loaded, swatches)
    shared = in_common([swatches_of(p, 24) for p in loaded]) if len(loaded) > 1 else 1.0
    if as_json:
        rows = [{"colour": s.colour.hex, "share": round(s.share, 6), "at": [round(v, 4) for v in s.at]} for s in found]
        _out({"swatches": rows, "in_common": round(shared, 4)})
        return
    if len(loaded) > 1:
        click.echo(f"The pictures have {shared:.0%} of their area in common.")
    for s in found:
        click.echo(
            f"{s.colour.hex}  {s.share:7.2%}  at {s.at[0]:.2f}, {s.at[1]:.2f}{'  (small and vivid)' if s.vivid else ''}"
        )


@app.command()
@click.argument("source", nargs=-1, required=True, type=click.Path(path_type=Path))
@click.option("--tone", type=click.Choice(["dark", "light"]), help="Dark or light; dark unless the source says.")
@click.option("--accent", help="The accent to start from: hex, rgb(), hsl(), oklch() or a colour's name.")
@click.option("--contrast", type=click.Choice(["4.5", "7"]), help="The ratio that text has to reach.")
@click.option("--screen", metavar="WxH", help="The screen's size, for what lies behind see-through surfaces.")
@click.option("--placement", type=click.Choice(_MODES), help="How the picture lies on the screen.")
@click.option("--name", help="The look's name; the picture's when not given.")
@click.option("--save", type=click.Path(path_type=Path, dir_okay=False), help="Keep the look in a file.")
@_JSON
@_sentence
def derive(
    source: tuple[Path, ...],
    tone: str | None,
    accent: str | None,
    contrast: str | None,
    screen: str | None,
    placement: str | None,
    name: str | None,
    save: Path | None,
    as_json: bool,
) -> None:
    """Derive a look from pictures, a scheme, a palette file or a theme, or read one: its roles, and its pairs."""
    from dataclasses import replace

    from .look.edits import with_temper
    from .look.file import look_to_json
    from .palette.pairs import judge
    from .wear.disk import Disk

    look = _look_of(source, tone, accent, _placement(screen, placement))
    if contrast:
        look = with_temper(look, replace(look.temper, text_need=float(contrast)))
    if name:
        look = replace(look, name=name)
    if save is not None:
        with file_errors(save, "write"):
            save.parent.mkdir(parents=True, exist_ok=True)
        Disk().write(save, look_to_json(look).encode("utf-8"))
    pairs = [
        {
            "tone": t,
            "text": j.pair.text,
            "surface": j.pair.surface,
            "ratio": round(j.ratio, 3),
            "need": j.pair.need,
            "passes": j.passes,
        }
        for t in ("dark", "light")
        for j in judge(look.palettes[t], look.pairs)
    ]
    if as_json:
        tones = {t: {"roles": {r: c.hex for r, c in p.items()}} for t, p in look.palettes.items()}
        _out({"name": look.name, "tones": tones, "pairs": pairs})
        return
    click.echo(f"{look.name}, {look.tone}")
    for role, colour in look.colours.items():
        click.echo(f"  {colour.hex}  {role}")
    short = sum(not p["passes"] for p in pairs)
    click.echo(f"{len(pairs)} pairs, {short} short" if short else f"All {len(pairs)} pairs can be read.")


_LOOK_SUFFIXES = (".finchlook",)


def _is_look(path: Path) -> bool:
    """Tell whether a JSON file is a saved look rather than design tokens."""
    from .look.file import KIND

    try:
        return path.suffix == ".json" and KIND.encode() in path.read_bytes()[:400]
    except OSError:
        return False


def _typed(text: str) -> Any:
    from .syntax.typed import read_typed

    try:
        return read_typed(text)
    except ValueError as error:
        raise ParseError(f"{error}.") from error


def _placement(screen: str | None, mode: str | None) -> Any:
    from .picture.placement import Placement

    plain = Placement()
    width, height = plain.width, plain.height
    if screen:
        parts = screen.lower().replace("×", "x").split("x")
        if len(parts) != 2 or not all(p.isascii() and p.isdigit() and 64 <= int(p) <= 32768 for p in parts):
            raise ParseError(f"“{screen}” is not a screen's size.", hint="Give it as 1920x1080.")
        width, height = int(parts[0]), int(parts[1])
    return Placement(mode or plain.mode, width, height)  # type: ignore[arg-type]


def _look_of(source: tuple[Path, ...], tone: str | None, accent: str | None, placement: Any) -> Any:
    """Return the look of a look's file, a scheme's name, a theme's folder, a palette file, or pictures."""
    from .look.edits import with_accent, with_tone
    from .look.file import load_look
    from .look.from_colours import look_of_list
    from .look.from_theme import look_of_theme
    from .look.gather import look_of_pictures
    from .look.interchange.catalogue import is_palette_name, read_palette
    from .look.ready import ready_scheme

    first = source[0]
    colour = _typed(accent) if accent else None
    scheme = ready_scheme(str(first)) if len(source) == 1 and not first.exists() else None
    if scheme is not None:
        look = scheme.look()
    elif first.suffix in _LOOK_SUFFIXES or _is_look(first):
        look = load_look(first)
    elif first.is_dir():
        look = look_of_theme(first)
    elif len(source) == 1 and is_palette_name(first):
        found = read_palette(first)
        for problem in found.problems:
            click.echo(f"mellow-finch: {first.name}, line {problem.line}: {problem.message}", err=True)
        look = look_of_list(found, tone or "dark")  # type: ignore[arg-type]
    else:
        return look_of_pictures(source, tone or "dark", colour, placement=placement)  # type: ignore[arg-type]
    look = with_tone(look, tone) if tone else look  # type: ignore[arg-type]
    return with_accent(look, colour) if colour is not None else look


def _home_files(home: Path | None) -> Any:
    from .components.model import FolderFiles
    from .demo.build import build_demo_home
    from .wear.history import History, OriginalFiles
    from .wear.places import demo_folder, history_folder

    folder = home if home is not None else build_demo_home(demo_folder())
    if not folder.is_dir():
        raise ParseError(f"“{folder}” is not a folder.", hint="Give a home folder that exists.")
    return folder, OriginalFiles(FolderFiles(folder), History(history_folder(folder)))


@app.command()
@click.argument("look", type=click.Path(path_type=Path))
@click.option(
    "--into", required=True, type=click.Path(path_type=Path, file_okay=False), help="The folder to write into."
)
@click.option("--only", multiple=True, help="A component; may be given several times.")
@_HOME
@_sentence
def dress(look: Path, into: Path, only: tuple[str, ...], home: Path | None) -> None:
    """Write every component's files into a folder laid out like a home; touch nothing else."""
    from .components.catalogue import COMPONENT_BY_ID
    from .look.dressed import dress as dress_look
    from .look.file import SUFFIX, load_look, look_to_json
    from .wear.disk import Disk

    unknown = [c for c in only if c not in COMPONENT_BY_ID]
    if unknown:
        raise ParseError(f"There is no component “{unknown[0]}”.", hint=f"Known are {', '.join(COMPONENT_BY_ID)}.")
    loaded = load_look(look)
    dressed = dress_look(loaded, _home_files(home)[1], frozenset(only) or None)
    disk = Disk()
    with file_errors(into, "make"):
        into.mkdir(parents=True, exist_ok=True)
    disk.write(into / f"{loaded.folder}{SUFFIX}", look_to_json(loaded).encode("utf-8"))
    for component, files in dressed.files.items():
        for file in files:
            path = into / file.path
            with file_errors(path, "write"):
                path.parent.mkdir(parents=True, exist_ok=True)
            disk.write(path, file.data)
            click.echo(f"{component}: {file.path}")


@app.command()
@click.argument("path", type=click.Path(path_type=Path))
@click.argument("look", type=click.Path(path_type=Path))
@click.option(
    "--into", required=True, type=click.Path(path_type=Path, file_okay=False), help="The folder to write into."
)
@_JSON
@_sentence
def recolour(path: Path, look: Path, into: Path, as_json: bool) -> None:
    """Recolour a file or a folder of files that exist already; tell what was replaced and how often."""
    from .components.recolour_files import recolour_path
    from .look.file import load_look
    from .wear.disk import Disk

    result = recolour_path(path, load_look(look).scheme())
    disk = Disk()
    for name, data in result.outputs.items():
        target = into / name
        with file_errors(target, "write"):
            if target.resolve() in {path.resolve(), (path / name).resolve()}:
                raise ParseError(
                    "The folder to write into holds the very files to recolour.", hint="Choose another one."
                )
            target.parent.mkdir(parents=True, exist_ok=True)
        disk.write(target, data)
    if as_json:
        _out({"files": [f._asdict() for f in result.files], "groups": [g.as_json() for g in result.groups]})
        return
    for f in result.files:
        click.echo(f"{f.path}: {f.replaced} of {f.literals} colour literals replaced")
    for g in result.groups:
        click.echo(
            f"  {g.source.hex} -> {g.target.hex}  {g.role}: {g.places} places in {g.files} file{'s' * (g.files != 1)}"
        )


@app.command()
@click.argument("look", type=click.Path(path_type=Path))
@_HOME
@_JSON
@_sentence
def proof(look: Path, home: Path | None, as_json: bool) -> None:
    """Judge every pair of a look, or of a folder of dressed files; exit code 1 when one falls short."""
    from .components.judge import Behind
    from .components.model import FolderFiles
    from .look.dressed import as_it_is
    from .look.dressed import dress as dress_look
    from .look.edits import with_tone
    from .look.file import SUFFIX, load_look
    from .palette.recipe import TONES
    from .picture.backdrop import PLAIN
    from .proof.proof import Finding, findings, prove

    rows: list[Finding] = []
    if look.is_dir():
        beside = [load_look(p) for p in sorted(look.glob(f"*{SUFFIX}"))]
        behind, tone = (
            (Behind.of(beside[0].scheme()), beside[0].tone) if len(beside) == 1 else (Behind(PLAIN), "as found")
        )
        rows += findings(as_it_is(FolderFiles(look)), behind, tone)
    else:
        loaded = load_look(look)
        files = _home_files(home)[1]
        for tone in TONES:
            rows += prove(dress_look(with_tone(loaded, tone), files))
    rows.sort(key=lambda f: f.shortfall)
    short = [f for f in rows if not f.passes]
    if as_json:
        _out(
            {
                "pairs": [
                    {
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
                    for f in rows
                ],
                "failing": len(short),
            }
        )
    else:
        for f in short:
            click.echo(f"{f.ratio:5.2f} of {f.need:g}  {f.component}: {f.words} ({f.tone})")
        click.echo(f"{len(short)} of {len(rows)} pairs fall short." if short else f"All {len(rows)} pairs can be read.")
    if short:
        sys.exit(1)


@app.command()
@click.argument("look", type=click.Path(path_type=Path))
@_HOME
@click.option("--dry-run", is_flag=True, help="Only list what would be done.")
@_JSON
@_sentence
def wear(look: Path, home: Path | None, dry_run: bool, as_json: bool) -> None:
    """Put a look on a home: snapshot first, then every file."""
    from .look.dressed import dress as dress_look
    from .look.file import load_look
    from .session.real import session_for
    from .session.simulated import SimulatedSession
    from .wear.history import History
    from .wear.places import history_folder
    from .wear.wear import make_plan, put_on

    folder, files = _home_files(home)
    plan = make_plan(dress_look(load_look(look), files), folder)
    snapshot = (
        None if dry_run else put_on(plan, History(history_folder(folder)), session_for(folder) or SimulatedSession())
    )
    if as_json:
        _out(
            {
                "writes": [{"path": w.path, "action": w.action, "component": w.component} for w in plan.writes],
                "restart": list(plan.restart),
                "snapshot": snapshot.id if snapshot else None,
            }
        )
        return
    for w in plan.writes:
        click.echo(f"{w.action:6}  {w.path}")
    for sentence in plan.restart:
        click.echo(f"- {sentence}")
    if dry_run:
        click.echo(f"{len(plan.writes)} files would be written, {plan.same} are right already.")
    else:
        click.echo(
            f"{len(plan.writes)} files written; “mellow-finch undo” gives the old ones back."
            if snapshot
            else "Nothing had to change."
        )


@app.command()
@_HOME
@click.option("--overwrite", multiple=True, help="A file that was edited since, whose edits may be lost.")
@_sentence
def undo(home: Path | None, overwrite: tuple[str, ...]) -> None:
    """Take the look off that was put on last: the exact old files come back."""
    from .session.real import session_for
    from .session.simulated import SimulatedSession
    from .wear.history import History
    from .wear.places import history_folder
    from .wear.wear import undo_last

    folder, _ = _home_files(home)
    done = undo_last(History(history_folder(folder)), session_for(folder) or SimulatedSession(), overwrite)
    click.echo(f"“{done.look}” was taken off; {len(done.entries)} files are as they were.")


@app.command()
@_JSON
@_sentence
def schemes(as_json: bool) -> None:
    """List the schemes that ship; `derive` takes their names."""
    from .look.ready import READY

    if as_json:
        rows = [
            {"id": s.id, "title": s.title, "note": s.note, "tone": s.tone, "colours": [c.hex for c in s.colours]}
            for s in READY
        ]
        _out({"schemes": rows})
        return
    for s in READY:
        click.echo(f"{s.id:13} {s.tone:6} {' '.join(c.hex for c in s.colours)}  {s.title}: {s.note}")


@app.command()
@click.argument("look", type=click.Path(path_type=Path))
@click.argument("target", type=click.Path(path_type=Path, dir_okay=False))
@click.option("--as", "form", default="", help="The format, where the file's ending does not say it.")
@click.option("--tone", type=click.Choice(["dark", "light"]), help="Which half; the one in force when not given.")
@_sentence
def export(look: Path, target: Path, form: str, tone: str | None) -> None:
    """Write a look's palette as a palette file of another program's format."""
    from .look.edits import with_tone
    from .look.file import load_look
    from .look.interchange.catalogue import export_bytes
    from .wear.disk import Disk

    loaded = load_look(look)
    data = export_bytes(with_tone(loaded, tone) if tone else loaded, target, form)  # type: ignore[arg-type]
    with file_errors(target, "write"):
        target.parent.mkdir(parents=True, exist_ok=True)
        Disk().write(target, data)


@app.command()
@click.argument("look", type=click.Path(path_type=Path))
@click.argument("folder", type=click.Path(path_type=Path))
@_JSON
@_sentence
def match(look: Path, folder: Path, as_json: bool) -> None:
    """Rank the pictures of a folder by how well they go with a look, best first."""
    from .look.file import load_look
    from .picture.rank import Kept, pictures_in, rank
    from .progress import Silent
    from .wear.places import cache_folder

    rows = rank(pictures_in(folder), load_look(look).colours, Silent(), Kept(cache_folder()))
    if as_json:
        _out({"pictures": [{"path": str(r.path), "fit": round(r.fit, 2), "problem": r.problem} for r in rows]})
        return
    for r in rows:
        click.echo(f"{r.fit:5.1f}  {r.path}" if r.seen is not None else f"    -  {r.problem}")


@app.command()
@click.argument("picture", type=click.Path(path_type=Path))
@click.argument("look", type=click.Path(path_type=Path))
@click.option("--into", required=True, type=click.Path(path_type=Path, dir_okay=False), help="The picture to write.")
@click.option("--strength", default=0.6, show_default=True, type=click.FloatRange(0, 1), help="How far, 0 to 1.")
@_sentence
def tone(picture: Path, look: Path, into: Path, strength: float) -> None:
    """Tone a picture toward a look, as a new file; the original is never written over."""
    from .look.file import load_look
    from .picture.toning import toned_file
    from .progress import Silent
    from .wear.disk import Disk

    data = toned_file(picture, into, load_look(look).colours, strength, Silent())
    with file_errors(into, "write"):
        into.parent.mkdir(parents=True, exist_ok=True)
        Disk().write(into, data)


@app.command()
@click.argument("picture", required=False, type=click.Path(path_type=Path))
@click.option("--fresh", is_flag=True, help="Build the demo home anew.")
@_sentence
def demo(picture: Path | None, fresh: bool) -> None:
    """Open the window on the made-up home of Reedholm, with a picture or a look if one is named."""
    from .demo.build import build_demo_home
    from .ui.app import run
    from .wear.places import demo_folder

    sys.exit(run(build_demo_home(demo_folder(), fresh), picture))


def main() -> None:
    """Run the command line."""
    app()


if __name__ == "__main__":
    main()
