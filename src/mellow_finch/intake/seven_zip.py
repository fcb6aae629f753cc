"""7z archives unpacked in a process of its own: `python -m mellow_finch.intake.seven_zip` (see `worker`).

The readers of that format are large and partly compiled; what goes wrong in them ends this process alone.
"""

from __future__ import annotations

import os
from typing import Any

import py7zr
import py7zr.io

from .worker import Table, allow, serve

SECONDS = 20.0
_ROOM = 1_500_000_000


def answer(table: Table, _body: bytearray, handles: list[int]) -> tuple[Table, Any]:
    """Return names and sizes of the files of the archive that is open, and all their bytes; or a "problem"."""
    allow(SECONDS, _ROOM)
    with os.fdopen(os.dup(handles[0]), "rb") as stream, py7zr.SevenZipFile(stream) as archive:
        if archive.needs_password():
            return {"problem": "locked"}, b""
        rows = archive.list()
        if len(rows) > table["entries"] or sum(row.uncompressed for row in rows) > table["bytes"]:
            return {"problem": "large"}, b""
        if any(getattr(row, "is_symlink", False) for row in rows):
            return {"problem": "links"}, b""
        names = [row.filename for row in rows if not row.is_directory]
        archive.reset()
        factory = py7zr.io.BytesIOFactory(table["bytes"])
        archive.extract(targets=names, factory=factory)
    files: list[tuple[str, int]] = []
    out = bytearray()
    for name, product in factory.products.items():
        product.seek(0)
        data = product.read()
        files.append((name, len(data)))
        out += data
    return {"files": files}, out


if __name__ == "__main__":
    serve(answer, ("/proc/meminfo",))  # the library asks how much memory there is
