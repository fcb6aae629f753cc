"""The stage in layers shows what drawing all of it would show, and follows the hand until nothing is behind."""

from __future__ import annotations

import gc
import math
from dataclasses import replace
from threading import Thread, get_ident

import numpy as np
import pytest
from PyQt6.QtCore import QRectF, QSize, Qt
from PyQt6.QtGui import QImage, QPainter, QPixmap

from mellow_finch.colour.rgb import Rgba
from mellow_finch.components.catalogue import COMPONENT_BY_ID
from mellow_finch.errors import Cancelled
from mellow_finch.look.decision_edits import with_companion
from mellow_finch.look.dressed import dress
from mellow_finch.look.edits import with_accent, with_role
from mellow_finch.session.bar_items import _KINDS, BarItems
from mellow_finch.session.composition import WHOLE, Composition
from mellow_finch.ui.kit.per_thread import _kept, forget
from mellow_finch.ui.stage.brush import Brush
from mellow_finch.ui.stage.following import Following
from mellow_finch.ui.stage.lay import ViewOptions, areas_of, draw_stage, small_desktop
from mellow_finch.ui.stage.layers import Layers
from mellow_finch.ui.stage.scene import HEIGHT, WIDTH, Shape, border_of, draw_scene, owners, pieces

ALL = QRectF(0, 0, WIDTH, HEIGHT)


def pixels(image):
    bits = image.constBits()
    return (
        np.frombuffer(bits.asstring(image.sizeInBytes()), np.uint8)
        .reshape(image.height(), image.width(), 4)
        .astype(int)
    )


def painted(draw, ratio=1.0):
    image = QImage(round(800 * ratio), round(500 * ratio), QImage.Format.Format_RGB32)
    image.setDevicePixelRatio(ratio)
    image.fill(Qt.GlobalColor.darkCyan)
    painter = QPainter(image)
    painter.setRenderHints(QPainter.RenderHint.Antialiasing | QPainter.RenderHint.TextAntialiasing)
    painter.scale(0.5, 0.5)
    draw(painter)
    painter.end()
    return pixels(image)


@pytest.mark.parametrize(("shown", "ratio"), [("", 1.0), ("i3", 2.0)])
def test_layers_show_what_drawing_everything_shows(opened, shown, ratio):
    paints = opened.document.dressed_with(shown).paints if shown else opened.document.dressed.paints
    layers = Layers()
    for _ in range(2):  # drawn, and laid down again
        ours = painted(lambda p: layers.draw(p, paints, ALL, ViewOptions(shown=shown)), ratio)
    plain = painted(
        lambda p: (
            draw_stage(p, None, paints, Qt.GlobalColor.darkCyan, False, opened.staging.seen(opened.document.look))
            if not shown
            else _scene(p, paints, shown)
        ),
        ratio,
    )
    assert np.abs(ours - plain)[..., :3].max() <= 3  # compositing in two steps rounds twice


LOW = Shape(replace(WHOLE, low=True, dock=""))
NO_DOCK = Shape(replace(WHOLE, dock=""), True)
OTHERS = (
    Composition("waybar", True, "", "dunst", "foot", "", "sway"),
    Composition("gtk-3", False, "gtk-3", "xfce-notify", "xfce-terminal", "", "xfwm"),
    Composition("gtk-3", True, "plank", "", "", "widget-sheet", "metacity"),
    Composition("tint2", False, "", "mako", "kitty", "widget", "openbox"),
    Composition("i3", True, "", "", "kitty", "", "i3"),
    Composition("lxqt-theme", True, "", "lxqt-theme", "qterminal", "", "openbox"),
    Composition(
        "waybar", False, "", "", "", "", "sway", BarItems(("workspaces", "tides"), ("clock",), ("tray", "battery"))
    ),
    Composition("gtk-3", True, "", "", "", "", "xfwm", BarItems(("menu", "tasks"), (), ("clock",))),
    Composition("tint2", True, "", "", "", "", "openbox", BarItems(("launchers", "tasks"), (), ("clock",))),
)


def _scene(painter, paints, shown):
    draw_scene(Brush(painter, paints, False), shown)


def test_a_bar_is_drawn_as_its_configuration_puts_it(opened):
    """What stands left of another is noted there, for every bar that has a place in a file."""
    paints = {
        id_: opened.document.dressed_with(id_).paints[id_] for id_ in ("waybar", "tint2", "gtk-3", "gtk-4", "kde")
    }
    for made in OTHERS[-3:]:
        turned = replace(made, items=BarItems(made.items.right, made.items.middle, made.items.left))
        drawn = [
            painted(lambda p, m=m: draw_scene(Brush(p, paints, False), "", Shape(m))) for m in (made, turned, made)
        ]
        assert (drawn[0] != drawn[1]).any() and not (drawn[0] != drawn[2]).any(), made
    every = BarItems(tuple(kind for kind, _ in _KINDS), (), ("anything else",))
    painted(lambda p: draw_scene(Brush(p, paints, False), "", Shape(replace(made, items=every))))


@pytest.mark.long
def test_a_piece_draws_only_where_it_says(opened):
    scenes = {}
    for id_, component in COMPONENT_BY_ID.items():  # of each scene and layout one is enough
        scenes.setdefault((component.scene, component.layout), id_ if component.scene else "")
    shapes = [Shape(), LOW, NO_DOCK, *(Shape(made) for made in OTHERS)]
    for shown, shape in [*((s, Shape()) for s in scenes.values()), *(("", s) for s in shapes)]:
        paints = opened.document.dressed_with(shown).paints if shown else opened.document.dressed.paints
        for piece in pieces(shown, shape):
            image = QPixmap(WIDTH // 2, HEIGHT // 2)
            image.fill(Qt.GlobalColor.transparent)
            painter = QPainter(image)
            painter.scale(0.5, 0.5)
            brush = Brush(painter, paints, False)
            brush.border, brush.left = border_of(shown, shape), shape.left
            piece.draw(brush)
            painter.end()
            assert brush.used <= owners(shown, shape)
            alpha = pixels(image.toImage().convertToFormat(QImage.Format.Format_ARGB32))[..., 3]
            x, y, w, h = (round(v / 2) for v in piece.room)
            alpha[max(0, y) : y + h, max(0, x) : x + w] = 0
            assert not alpha.any(), piece


def test_only_what_changed_is_drawn_again(opened, monkeypatch):
    drawn = []
    document, layers = opened.document, Layers()
    before = dict(document.dressed.paints)
    painted(lambda p: layers.draw(p, before, ALL))
    monkeypatch.setattr("mellow_finch.ui.stage.layers._drawn", _noting(drawn))
    painted(lambda p: layers.draw(p, dict(before), ALL))
    assert drawn == []
    menu = {part: p._replace(fill=Rgba(1, 2, 3)) for part, p in before["kde"].items()}
    painted(lambda p: layers.draw(p, {**before, "kde": menu}, ALL))
    assert {piece.owner for piece in drawn} == {"kde", "terminal"}  # the terminal's border is the window manager's
    painted(lambda p: layers.draw(p, {**before, "kde": menu}, QRectF(1300, 0, 300, 300)))
    assert len(drawn) == 2


def _noting(drawn):
    from mellow_finch.ui.stage import layers

    real = layers._drawn

    def noted(piece, *rest):
        drawn.append(piece)
        return real(piece, *rest)

    return noted


def test_following_ends_at_what_is_wanted_and_takes_the_hand_first(qtbot):
    shown, asked = [], []

    class Slow(dict):
        def get(self, key, default=None):
            asked.append(key)
            return super().get(key, default)

    following = Following(shown.append)
    following.at_once({"a": {"x": 1}, "b": {"x": 1}, "c": {"x": 1}})
    wanted = Slow(a={"x": 2}, b={"x": 1}, c={"x": 2})
    following.follow(wanted, ("a", "b", "c"), "c")
    assert following.behind and shown[-1]["a"] == {"x": 1}
    qtbot.waitUntil(lambda: not following.behind)
    assert asked[0] == "c" and sorted(asked) == ["a", "b", "c"]
    assert dict(shown[-1]) == dict(wanted)


@pytest.mark.long
@pytest.mark.parametrize("shown", ["", "waybar"])
def test_a_drag_ends_with_the_whole_stage_as_it_is_written(opened, settle, shown):
    document = opened.document
    opened.show_step("tune")
    document.in_view = shown
    opened.tune.role._gesture.begin()
    for step in range(6):
        opened.tune.role._gesture.edit(
            "Change", lambda look, s=step: with_role(look, "accent", Rgba(60 + 20 * s, 90, 180))
        )
    settle(opened)
    want = document.right_paints
    for id_ in owners(shown):
        assert opened.stage._after.get(id_, {}) == want.get(id_, {}), id_


@pytest.mark.long
def test_what_was_written_before_is_written_anew_only_when_it_depends_on_it(opened):
    document = opened.document
    document.new_gesture()
    rng = np.random.default_rng(5)
    look = document.look
    for role in ("accent", "menu_text", "terminal", "link", "panel", "window_text", "divider", "accent"):
        colour = Rgba(*(int(v) for v in rng.integers(0, 255, 3)))
        try:
            look = with_accent(look, colour) if role == "accent" else with_role(look, role, colour)
        except Exception:  # locks, which do not matter here
            continue
        kept, fresh = document.dress(look, True), document.dress(look)
        assert dict(kept.files) == dict(fresh.files)
        assert dict(kept.paints) == dict(fresh.paints)


def test_the_same_bytes_say_the_same_thing_without_being_read(opened, monkeypatch):
    document = opened.document
    document.new_gesture()
    first = document.dress(document.look, True).paints["terminal"]
    again = document.dress(with_role(document.look, "tooltip", Rgba(9, 40, 90)), True)
    assert again.paints["terminal"] is first


def test_nothing_is_drawn_that_is_not_there_or_not_known(opened):
    """A desktop of parts has what its parts say; one whose files say nothing has no white boxes in their place."""
    paints = opened.document.dressed.paints

    def there(made, paints=paints):
        return {a.component for a in areas_of(paints, ViewOptions(shape=Shape(made)))}

    assert {"shell", "widget", "terminal"} <= there(WHOLE)
    bare = Composition("", False, "", "", "kitty", "", "openbox")
    assert there(bare) == {"gtk-3", "gtk-4", "kde", "kitty", "openbox"}
    assert {"waybar", "dunst"} <= there(OTHERS[0]) and "shell" not in there(OTHERS[0])
    said = {id_: own for id_, own in paints.items() if id_ not in ("widget", "shell")}
    assert not {"widget", "shell"} & there(WHOLE, said)


@pytest.mark.long
def test_the_stage_has_the_shape_of_the_desktop_that_runs(opened, settle):
    document = opened.document
    paints = document.dressed.paints

    def panel(shape):
        return next(
            a.rect for a in areas_of(paints, ViewOptions(shape=shape)) if (a.component, a.part) == ("shell", "panel")
        )

    assert panel(Shape()).top() == 0 and panel(LOW).bottom() == HEIGHT
    docks = [any(a.part == "dock" for a in areas_of(paints, ViewOptions(shape=s))) for s in (Shape(), NO_DOCK)]
    assert docks == [True, False]
    opened.show_step("tune")
    assert opened.staging.shape == Shape()  # the made-up ringing room
    before = opened.stage.grab().toImage()
    document.edit("Buttons", lambda look: with_companion(look, "buttons", "left"))
    settle(opened)
    assert opened.stage._seen.shape.left and opened.stage.grab().toImage() != before


def test_threads_draw_the_same_and_leave_nothing_behind(style, look, files):
    """What one thread laid out is never drawn by another; the toolkit would crash."""
    forget()  # what was laid out before the fonts were there
    paints, drawn = dict(dress(look, files).paints), []

    def small():
        return small_desktop(QSize(320, 200), None, paints, Qt.GlobalColor.black)

    def draw():
        try:
            drawn.append(small())
        finally:
            forget()

    here = [small()]
    for _ in range(5):
        threads = [Thread(target=draw) for _ in range(3)]
        for one in threads:
            one.start()
        while any(one.is_alive() for one in threads):
            here.append(small())
        for one in threads:
            one.join()
    assert len(drawn) == 15 and all(image == here[0] for image in (*drawn, *here))
    assert set(_kept) <= {get_ident()}


def test_a_drawing_that_is_stopped_takes_nothing_with_it(style, look, files):
    """Whoever draws may be stopped at any component; the painter ends before what it paints on."""

    paints = dict(dress(look, files).paints)

    class Stopping(dict):
        def get(self, id_, default=None):
            if id_ == "terminal":
                raise Cancelled("Stopped.")
            return super().get(id_, default)

    for _ in range(3):
        with pytest.raises(Cancelled):
            small_desktop(QSize(320, 200), None, Stopping(paints), Qt.GlobalColor.black)
        gc.collect()  # the toolkit warns of a painter that is left, and fails the test


def test_what_takes_longer_than_a_frame_is_drawn_in_several_turns_to_the_same_end(qtbot, opened, settle):
    """A stage that is told to be quick leaves pieces for later turns, and ends as one that draws all at once."""
    opened.show_step("tune")
    settle(opened)
    stage = opened.stage
    at_once = stage.grab().toImage()
    stage.be_quick()
    for layers in stage._layers:
        layers.patience, layers._ways = 0.0, []
    assert stage.grab().toImage() != at_once and stage._layers[1].unfinished
    qtbot.waitUntil(lambda: not stage._rest.isActive() and not stage._layers[1].unfinished, timeout=10000)
    assert stage.grab().toImage() == at_once
    document = opened.document
    document.edit("Accent", lambda look: with_role(look, "accent", Rgba(30, 200, 120)))
    settle(opened)
    qtbot.waitUntil(lambda: not stage._layers[1].unfinished, timeout=10000)
    for layers in stage._layers:
        layers.patience = math.inf
    fresh = stage.grab().toImage()
    stage._layers[1]._ways = []
    assert stage.grab().toImage() == fresh != at_once
