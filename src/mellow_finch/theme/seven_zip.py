"""A 7z archive turned into a plain tar on standard output, in a process of its own with little memory and time.

The readers of that format are large and partly compiled; what goes wrong in them ends this process alone. Run as
`python -m mellow_finch.theme.seven_zip ARCHIVE MOST_FILES MOST_BYTES`; the exit code says what was the matter.
"""

from __future__ import annotations

import io
import sys
import tarfile

LOCKED, LINKS, TOO_MUCH, DAMAGED = 3, 4, 5, 6
_MEMORY = 1_500_000_000
_SECONDS = 30


def _limit() -> None:
    import resource

    resource.setrlimit(resource.RLIMIT_AS, (_MEMORY, _MEMORY))
    resource.setrlimit(resource.RLIMIT_CPU, (_SECONDS, _SECONDS))
    resource.setrlimit(resource.RLIMIT_FSIZE, (0, 0))  # it writes no file
    resource.setrlimit(resource.RLIMIT_CORE, (0, 0))


def convert(path: str, most_files: int, most_bytes: int) -> int:
    """Write the tar; return the exit code."""
    import py7zr

    with py7zr.SevenZipFile(path) as archive:
        if archive.needs_password():
            return LOCKED
        rows = archive.list()
        if len(rows) > most_files or sum(row.uncompressed for row in rows) > most_bytes:
            return TOO_MUCH
        if any(getattr(row, "is_symlink", False) for row in rows):
            return LINKS
        names = [row.filename for row in rows if not row.is_directory]
    with py7zr.SevenZipFile(path) as archive:
        factory = py7zr.io.BytesIOFactory(most_bytes)
        archive.extract(targets=names, factory=factory)
        with tarfile.open(fileobj=sys.stdout.buffer, mode="w|") as out:
            for name, product in factory.products.items():
                product.seek(0)
                data = product.read()
                info = tarfile.TarInfo(name)
                info.size = len(data)
                out.addfile(info, io.BytesIO(data))
    return 0


def main() -> int:
    """Convert the archive that is named."""
    _limit()
    try:
        return convert(sys.argv[1], int(sys.argv[2]), int(sys.argv[3]))
    except Exception:
        return DAMAGED


if __name__ == "__main__":
    sys.exit(main())
