"""Settings in a rehearsal's home: written where programs look for them, as the desktop's own stores keep them."""

from __future__ import annotations

import re
from collections.abc import Iterable, Iterator, Mapping
from string import Formatter
from xml.etree.ElementTree import Element, ParseError, SubElement, tostring

from defusedxml.common import DefusedXmlException
from defusedxml.ElementTree import fromstring

from ...components.model import ComponentSetting
from ...components.rehearsal import Rehearsal
from ...look.dressed import Dressed
from ...syntax.ini import set_keys

_KEYFILE = ".config/glib-2.0/settings/keyfile"
_CHANNEL = ".config/xfce4/xfconf/xfce-perchannel-xml/{}.xml"
_PLAIN = re.compile(r"true|false|-?[\d.]+|[\[('].*", re.DOTALL)  # values that are spelled as the store wants them
_TYPES = {"": "string", "s": "string", "b": "bool", "i": "int", "u": "uint", "d": "double"}


def with_settings(laid: Mapping[str, bytes], dressed: Dressed, rows: Iterable[Rehearsal]) -> dict[str, bytes]:
    """Return files with those settings that choose a look's files or hold its colours. Pure."""
    folder = dressed.folder or dressed.look.folder
    words = {"folder": folder, "id": folder.lower(), "tone": dressed.look.tone}
    out, text = dict(laid), ""
    for row in _asked(dressed, words):
        if row.store == "xfconf" and row.key.count("/") == 1:
            path = _CHANNEL.format(row.schema)
            out[path] = _with_property(out.get(path, b""), row)
        elif row.store == "gsettings":
            value = row.value if _PLAIN.fullmatch(row.value) else f"'{row.value}'"
            text = set_keys(text, _group(row.schema), {row.key: value})
    for way in rows:
        for place, value in way.settings.items():
            group, _, key = place.rpartition("/")
            text = set_keys(text, group, {key: f"'{value.format(**words)}'"})
    return {**out, _KEYFILE: text.encode()} if text else out


def _asked(dressed: Dressed, words: Mapping[str, str]) -> Iterator[ComponentSetting]:
    """Yield the settings of components, their words filled in; of those that stand for another, the usual place."""
    for component in dressed.components:
        for row in component.settings:
            wanted = {name for _, name, _, _ in Formatter().parse(row.value) if name}
            if wanted <= set(words) and not row.of:
                yield row._replace(value=row.value.format(**words))
        if component.colour_settings is not None:
            for row in component.colour_settings(dressed.look.scheme(), dressed.home):
                yield row._replace(schema=row.schema.replace("{of}", row.of[2])) if row.of else row


def _group(schema: str) -> str:
    """Return the group of a key file that stands for a schema: its path, told or made of its name."""
    _, told, path = schema.partition(":")
    return path.strip("/") if told else schema.replace(".", "/")


def _with_property(data: bytes, row: ComponentSetting) -> bytes:
    """Return a channel's file with one property set; a file that cannot be read counts as none."""
    try:
        root = fromstring(data) if data else Element("channel", name=row.schema, version="1.0")
    except (ParseError, DefusedXmlException, ValueError):
        root = Element("channel", name=row.schema, version="1.0")
    name = row.key.lstrip("/")
    found = next((p for p in root.findall("property") if p.get("name") == name), None)
    found = SubElement(root, "property", name=name) if found is None else found
    found.set("type", _TYPES.get(row.kind, "string"))
    found.set("value", row.value)
    return f'<?xml version="1.1" encoding="UTF-8"?>\n{tostring(root, encoding="unicode")}'.encode()
