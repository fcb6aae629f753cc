"""Plasma's pictures and slideshows: the scripts run in a real engine, against desktops as its shell has them."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from mellow_finch.picture.placement import Showing
from mellow_finch.session.desktop import Wish, desktop_named, settings_for
from mellow_finch.session.simulated import MADE_UP, SimulatedSession
from mellow_finch.session.stores import plasma

qml = pytest.importorskip("PyQt6.QtQml")
SHELL = """
var shown = {}, printed = "";
function print(words) { printed += words; }
function desktops() {
    return Object.keys(shown).map(function (id) {
        var own = shown[id], group = function (d) { return d.currentConfigGroup.join("/"); };
        return {
            id: id, currentConfigGroup: [],
            get wallpaperPlugin() { return own.plugin; }, set wallpaperPlugin(name) { own.plugin = name; },
            readConfig: function (key, usual) { var v = own[group(this) + key]; return v === undefined ? usual : v; },
            writeConfig: function (key, value) {
                if (value === undefined) { delete own[group(this) + key]; } else { own[group(this) + key] = value; }
            },
            reloadConfig: function () { }
        };
    });
}
"""


class Shell:
    """A shell with two desktops, which runs scripts."""

    def __init__(self):
        self.engine = qml.QJSEngine()
        self.engine.evaluate(SHELL)
        self.engine.evaluate('shown = {"1": {plugin: "org.kde.image"}, "7": {plugin: "org.kde.color"}};')

    def call(self, _address, _method, _signature, words):
        self.engine.evaluate('printed = "";')
        result = self.engine.evaluate(words[0])
        assert not result.isError(), result.toString()
        return (self.engine.evaluate("printed").toString(),)

    def state(self):
        return self.engine.evaluate("JSON.stringify(shown, function (k, v) { return v && typeof v === 'object' ? Object.keys(v).sort().reduce(function (o, n) { o[n] = v[n]; return o; }, {}) : v; })").toString()  # fmt: skip


@pytest.fixture
def shell(qapp, monkeypatch):
    shell = Shell()
    monkeypatch.setattr(plasma, "call", shell.call)
    return shell


WORDS = st.text("abcdefghij/ ,%20\"'üß", max_size=12)
STEPS = st.lists(st.tuples(st.sampled_from(["", "slideshow"]), st.sampled_from("17"), WORDS, st.sampled_from(["", "2", "6"])), min_size=1, max_size=6)  # fmt: skip


@given(steps=STEPS)
def test_whatever_was_shown_comes_back_exactly(shell, steps):
    store, first = plasma.PlasmaPictures(), shell.state()
    undo = []
    for schema, key, value, mode in steps:
        undo.append((schema, key, store.read(schema, key)))
        kind = f"org.kde.slideshow|{mode}|300|1" if schema else f"|{mode}"
        store.write(schema, key, value, kind)
        now = store.read(schema, key)
        assert now.value == value and now.kind.split("|")[1] == mode
        assert now.kind.startswith("org.kde.slideshow" if schema else "org.kde.image")
    for schema, key, was in reversed(undo):
        store.write(schema, key, was.value, was.kind)
    assert shell.state() == first


def test_a_look_sets_a_slideshow_or_an_image_and_never_both(shell, monkeypatch, tmp_path):
    session = SimulatedSession(MADE_UP["plain"])
    store = plasma.PlasmaPictures()
    monkeypatch.setattr(SimulatedSession, "keys", lambda _self, _store, schema, pattern: store.keys(schema, pattern))
    pictures = tuple(str(tmp_path / f"{name}.jpg") for name in ("dawn", "dusk"))
    for showing, schema, value in (
        (Showing("slideshow", 5), "slideshow", f"{tmp_path}/.local/share/mellow-finch/slides/Look"),
        (Showing(), "", f"file://{pictures[0]}"),
    ):
        wish = Wish("Look", "dark", pictures[0], home=str(tmp_path), pictures=pictures, showing=showing)
        found = settings_for(desktop_named("plasma"), wish, (), session)
        rows = [row for row, _ in found if row.store == "plasma"]
        assert {(row.schema, row.key, row.value) for row in rows} == {(schema, "1", value), (schema, "7", value)}
        assert {row.kind for row in rows} == {"org.kde.slideshow|2|300|1" if schema else "|2"}
