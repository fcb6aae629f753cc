"""The way in: what opens foreign files, and the processes in which risky readers work."""

from __future__ import annotations

import ast
import re
from pathlib import Path

import mellow_finch
from tests.every import every

SOURCE = Path(mellow_finch.__file__).parent
# Calls that read a file, run a program, or hand bytes to a library's own guess at their kind; and who may make them.
READS = {
    "open",
    "read_bytes",
    "read_text",
    "fdopen",
    "fromData",
    "QSvgRenderer",
    "ZipFile",
    "SevenZipFile",
    "Popen",
    "run",
}
MAY = {
    "disk/facts.py": "plain files, the way in for bytes",
    "disk/write.py": "writes", "disk/below.py": "writes",
    "intake/confine.py": "folders by descriptor, to shut a process in",
    "intake/archives.py": "archives", "intake/seven_zip.py": "archives", "intake/decoder.py": "pictures",
    "intake/pictures.py": "pictures", "intake/worker.py": "processes of readers",
    "wear/lock.py": "its own lock", "wear/walk.py": "its own kept bytes", "picture/rank.py": "writes what it keeps",
    "session/screen_tools.py": "asks the screen's own programs", "ui/kit/pace.py": "asks the kernel of its own thread",
    "session/real.py": "tells terminals", "session/commands.py": "asks the desktop",
    "session/desktop.py": "data of the package", "intake/bounded.py": "runs programs within bounds",
    "components/write/gtk.py": "data of the package", "theme/sheets/places.py": "data of the package", "proof/toolkit/gallery_gtk4.py": "the hidden screen's own memory", "components/define/definition.py": "data of the package", "components/define/parts.py": "data of the package",
    "language.py": "data of the package", "syntax/catalogue.py": "data of the package", "syntax/launched.py": "data of the package", "syntax/parsed.py": "data of the package, made when it is built", "ui/kit/style.py": "fonts of the package",
    "components/write/makers.py": "packs what it made", "look/interchange/painters.py": "packs what it made", "demo/turnstone.py": "packs what it made", "demo/build.py": "its own pictures",
    "cli/parts.py": "a lost output", "ui/dress/draw_drawing.py": "drawings", "ui/dress/pictures_beside.py": "pixmaps, by name of their kind",
    "ui/kit/printing.py": "a buffer in memory", "ui/shelf/desk.py": "a buffer in memory", "cli/follow.py": "starts itself",
    "session/outsiders.py": "data of the package", "ui/dress/toolkit_dialog.py": "what the toolkit painted, by name of its kind",
    "ui/stage/brush.py": "pictures that the look made itself, by name of their kind",
    "proof/toolkit/ask.py": "asks the real toolkit, in a process of its own",
    "proof/rehearsal/room.py": "starts programs inside walls", "proof/rehearsal/inside.py": "runs inside these walls",
    "proof/rehearsal/ask_terminal.py": "runs inside these walls", "proof/rehearsal/prepared.py": "data of the package",
    "proof/rehearsal/conductor.py": "pictures that a rehearsal took, by name of their kind",
    "ui/proof/programs.py": "pictures that a rehearsal took, by name of their kind", "wear/trial.py": "starts itself",
    "shelf/packing.py": "packs what it made",
    "shelf/for_all.py": "scripts of its own", "shelf/parcel.py": "names in an archive, and scripts of its own",
    "ui/help/pages.py": "data of the package",
    "ui/gather/start_view.py": "thumbnails that we kept", "ui/gather/match_page.py": "thumbnails of its own, by name of their kind",
}  # fmt: skip


_TOLD = re.compile(rf"\b(?:{'|'.join(sorted(READS))})\(")


def calls(path):
    text = path.read_text(encoding="utf-8")
    for node in ast.walk(ast.parse(text)) if _TOLD.search(text) else ():
        if isinstance(node, ast.Call):
            name = node.func.attr if isinstance(node.func, ast.Attribute) else getattr(node.func, "id", "")
            if name in READS:
                owner = ast.unparse(node.func.value) if isinstance(node.func, ast.Attribute) else ""
                yield name, owner, node


@every("path", sorted(SOURCE.rglob("*.py")), lambda p: p.relative_to(SOURCE).as_posix())
def test_nothing_but_the_way_in_opens_foreign_files(path):
    name = path.relative_to(SOURCE).as_posix()
    found = {
        f"{o}.{n}"
        for n, o, node in calls(path)
        if n in READS and (n != "run" or o == "subprocess") and (n != "open" or node.args)
    }
    assert not found or name in MAY, f"{name} reads by itself: {found}"


def test_pictures_are_opened_by_formats_that_are_named():
    for path in SOURCE.rglob("*.py"):
        for name, owner, node in calls(path):
            if name == "open" and owner == "Image":
                assert "formats" in {k.arg for k in node.keywords}, path
