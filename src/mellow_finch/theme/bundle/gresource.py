"""Resource bundles in which toolkit themes pack their sheets and pictures: read, and written with other contents.

A bundle is a hash table of GLib's "GVariant database" form: a header, a table of buckets, items, and the values. Each
file is a GVariant of the type (uuay): its unpacked size, its flags (1: packed with zlib) and its bytes.
"""

from __future__ import annotations

import struct
import zlib
from collections.abc import Mapping
from itertools import accumulate

from ...errors import PictureError, UnsafeArchiveError
from ...intake.budget import Budget
from ...intake.pixdata import is_pixdata, png_of
from ...language import tr

_MAGIC = b"GVariant"
_ROOT = 0xFFFFFFFF
_MOST_ITEMS = 20_000


def _hash(key: bytes) -> int:
    value = 5381
    for byte in key:
        value = (value * 33 + (byte if byte < 128 else byte - 256)) & 0xFFFFFFFF
    return value


def read_resources(data: bytes, budget: Budget) -> dict[str, bytes]:
    """Return {"/org/…/gtk.css": bytes} of a bundle, pictures that lie there as bare pixels as PNG.

    Raises UnsafeArchiveError when it is damaged, of the other byte order, or more than the budget.
    """
    try:
        return _read(data, budget)
    except (struct.error, IndexError, ValueError, zlib.error) as error:
        raise UnsafeArchiveError(tr("A resource bundle of the theme is damaged.")) from error


def _read(data: bytes, budget: Budget) -> dict[str, bytes]:
    if data[:8] != _MAGIC:
        raise UnsafeArchiveError(tr("A resource bundle of the theme has an unreadable format."))
    start, end = struct.unpack_from("<II", data, 16)
    bloom, buckets = struct.unpack_from("<II", data, start)
    items_at = start + 8 + 4 * (bloom & 0x07FFFFFF) + 4 * buckets
    count = (end - items_at) // 24
    if count > _MOST_ITEMS or count < 0:
        raise UnsafeArchiveError(tr("A resource bundle of the theme is too large."))
    items = [struct.unpack_from("<IIIHcxII", data, items_at + 24 * i) for i in range(count)]

    def name(index: int, depth: int = 0) -> bytes:
        _, parent, key_at, size, *_ = items[index]
        own = data[key_at : key_at + size]
        if parent == _ROOT or depth > 40:
            return own
        return name(parent, depth + 1) + own

    out: dict[str, bytes] = {}
    for i, (*_, kind, value_at, value_end) in enumerate(items):
        if kind != b"v":
            continue
        value = data[value_at:value_end]
        # A variant: the value, a zero byte, the type's text.
        inner = value[: value.rindex(b"\0(uuay)")]
        size, flags = struct.unpack_from("<II", inner, 0)
        budget.take(size)
        content = inner[8:]
        if flags & 1:
            content = zlib.decompressobj().decompress(content, size + 1)
        key = name(i).decode("utf-8")
        if not key.startswith("/"):
            raise UnsafeArchiveError(tr("A resource bundle of the theme is damaged."))
        out[key] = content[:size]
        if is_pixdata(content):
            out[key] = _unpacked(out[key], key, budget)
    return out


def _unpacked(data: bytes, name: str, budget: Budget) -> bytes:
    """Return a picture that lies in a bundle as bare pixels as PNG, the very bytes where it cannot be read."""
    try:
        found = png_of(data, name)
    except PictureError:
        return data
    budget.take(len(found))
    return found


def write_resources(files: Mapping[str, bytes]) -> bytes:
    """Return a bundle of files by their absolute paths, texts packed; the same files give the same bytes."""
    keys: dict[bytes, int] = {}
    rows: list[tuple[bytes, int, bytes | None]] = []  # own part of the key, parent, value; None for a folder

    def folder(path: bytes) -> int:
        if path in keys:
            return keys[path]
        parent = _ROOT if path == b"/" else folder(path[: path[:-1].rindex(b"/") + 1])
        own = path if parent == _ROOT else path[path[:-1].rindex(b"/") + 1 :]
        keys[path] = len(rows)
        rows.append((own, parent, None))
        return keys[path]

    for path in sorted(files):
        raw = path.encode("utf-8")
        parent = folder(raw[: raw.rindex(b"/") + 1])
        content = files[path]
        packed = zlib.compress(content, 9)
        flags, stored = (1, packed) if len(packed) < len(content) else (0, content + b"\0")
        value = struct.pack("<II", len(content), flags) + stored + b"\0(uuay)"
        keys[raw] = len(rows)
        rows.append((raw[raw.rindex(b"/") + 1 :], parent, value))
    names = {index: key for key, index in keys.items()}
    buckets = max(1, len(rows))
    order = sorted(range(len(rows)), key=lambda i: (_hash(names[i]) % buckets, i))
    place = {old: new for new, old in enumerate(order)}
    filled = [0] * (buckets + 1)
    for key in names.values():
        filled[_hash(key) % buckets + 1] += 1
    heads = list(accumulate(filled))[:buckets]
    table_at = 24
    items_at = table_at + 8 + 4 * buckets
    at = items_at + 24 * len(rows)
    table_end = at
    body = bytearray()
    items = bytearray()
    children: dict[int, list[int]] = {}
    for index, (_, parent, _) in enumerate(rows):
        if parent != _ROOT:
            children.setdefault(parent, []).append(place[index])

    def put(data: bytes, align: int) -> tuple[int, int]:
        body.extend(b"\0" * (-(at + len(body)) % align))
        begin = at + len(body)
        body.extend(data)
        return begin, at + len(body)

    for index in order:
        own, parent, content_or_none = rows[index]
        key_at, _ = put(own, 1)
        if content_or_none is None:
            listed = b"".join(struct.pack("<I", child) for child in sorted(children.get(index, [])))
            begin, end, kind = *put(listed, 4), b"L"
        else:
            begin, end, kind = *put(content_or_none, 8), b"v"
        above = _ROOT if parent == _ROOT else place[parent]
        items += struct.pack("<IIIHcxII", _hash(names[index]), above, key_at, len(own), kind, begin, end)
    head = _MAGIC + struct.pack("<IIII", 0, 0, table_at, table_end)
    table = struct.pack("<II", 0, buckets) + b"".join(struct.pack("<I", h) for h in heads)
    return bytes(head + table + items + body)
