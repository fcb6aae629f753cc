"""Archives that are the same for the same contents, and themes packed to be kept or carried."""

from __future__ import annotations

import stat
import zipfile
from collections.abc import Mapping
from io import BytesIO
from pathlib import Path

from ..disk.facts import must_read
from ..theme.bundle.opened import Bundle, open_bundle

_MOST_BYTES = 200_000_000


def packed(path: Path) -> tuple[str, bytes]:
    """Return a theme's archive or file as it is, a folder packed."""
    if path.is_file():
        return path.name, must_read(path, _MOST_BYTES)
    bundle: Bundle = open_bundle(path)
    head = f"{bundle.part}/" if bundle.part else ""
    names = {p: f"{bundle.name}/{p.removeprefix(head)}" for p in bundle.entries}
    rows = {name: bundle.data(p) for p, name in names.items() if not bundle.entries[p].link}
    links = {name: link for p, name in names.items() if (link := bundle.entries[p].link)}
    return f"{path.name}.zip", zipped(rows, links)


def zipped(parts: Mapping[str, bytes], links: Mapping[str, str] | None = None) -> bytes:
    """Return files as an archive: the same bytes for the same files, whenever it is made; links: where they point."""
    buffer = BytesIO()
    with zipfile.ZipFile(buffer, "w", zipfile.ZIP_DEFLATED) as out:
        for path in sorted(parts):
            entry = zipfile.ZipInfo(path, (1980, 1, 1, 0, 0, 0))
            entry.compress_type = zipfile.ZIP_DEFLATED
            entry.external_attr = (0o755 if path.endswith(".sh") else 0o644) << 16
            out.writestr(entry, parts[path])
        for path, link in sorted((links or {}).items()):
            entry = zipfile.ZipInfo(path, (1980, 1, 1, 0, 0, 0))
            entry.external_attr = (stat.S_IFLNK | 0o777) << 16
            out.writestr(entry, link)
    return buffer.getvalue()
