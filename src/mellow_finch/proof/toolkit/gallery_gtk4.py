"""Measures a theme in the real GTK 4; run by the system's own interpreter on a hidden screen, prints JSON.

As `gallery_gtk3.py`, for the newer toolkit. Its pixels are read from the screen's own memory, a file that Xvfb keeps.
Usage: gallery_gtk4.py THEME SCREEN PICTURE; nothing of the program is imported here.
"""

import collections
import json
import mmap
import struct
import sys
from pathlib import Path

import gi

gi.require_version("Gtk", "4.0")
from gi.repository import GdkPixbuf, GLib, Gtk  # noqa: E402

sys.path.insert(0, str(Path(__file__).parent))
from gallery_common import MARK, ROWS, ratio, record, states_of, way_in  # noqa: E402

F = Gtk.StateFlags
REST, STATES = F.NORMAL, states_of(F)
LATE = 300  # milliseconds
SPREAD = F.BACKDROP | F.INSENSITIVE


class Screen:
    """The pixels of the hidden screen: the file of X's window dumps that its server maps."""

    def __init__(self, path):
        with Path(path).open("rb") as file:
            self._bytes = mmap.mmap(file.fileno(), 0, prot=mmap.PROT_READ)
        head = struct.unpack(">20I", self._bytes[:80])
        self._start, self.width, self.height, self._line = head[0] + head[19] * 12, head[4], head[5], head[12]

    def at(self, x, y):
        if not (0 <= x < self.width and 0 <= y < self.height):
            return None
        i = self._start + int(y) * self._line + int(x) * 4
        blue, green, red = self._bytes[i : i + 3]
        return red, green, blue

    def keep(self, path, x, y, width, height):
        """Write a part of the screen as PNG."""
        out = bytearray()
        for row in range(max(0, y), min(y + height, self.height)):
            i = self._start + row * self._line + max(0, x) * 4
            line = self._bytes[i : i + min(width, self.width - x) * 4]
            pixels = bytearray(len(line) // 4 * 3)
            pixels[0::3], pixels[1::3], pixels[2::3] = line[2::4], line[1::4], line[0::4]
            out += pixels
        wide = min(width, self.width - x)
        rows = len(out) // max(1, wide * 3)
        kind = GdkPixbuf.Colorspace.RGB
        GdkPixbuf.Pixbuf.new_from_bytes(GLib.Bytes.new(bytes(out)), kind, False, 8, wide, rows, wide * 3).savev(
            path, "png", [], []
        )


def marked(done, again):
    """Note that something came; returns whether it is to come again."""
    done.append(1)
    return again


def pump(milliseconds=12):
    done: list[int] = []
    GLib.timeout_add(milliseconds, marked, done, False)
    while not done:
        GLib.MainContext.default().iteration(True)


def shown(widget):
    """Let a widget be drawn again, and wait until the screen has it; where no frame comes, not for long."""
    clock = widget.get_frame_clock()
    done: list[int] = []
    drawn = clock.connect("after-paint", lambda _clock: done.append(1))
    late = GLib.timeout_add(LATE, marked, done, True)
    widget.queue_draw()
    while not done:
        GLib.MainContext.default().iteration(True)
    GLib.source_remove(late)
    clock.disconnect(drawn)
    widget.get_display().sync()


def children(widget):
    child = widget.get_first_child()
    while child is not None:
        yield child
        child = child.get_next_sibling()


def labels_in(widget):
    found = [widget] if isinstance(widget, Gtk.Label) else []
    for child in children(widget):
        if child.get_mapped():
            found += labels_in(child)
    return found


def box_of(widget):
    """Where a widget is on the screen; popups are surfaces of their own, placed from their parent's."""
    native = widget.get_native()
    _, box = widget.compute_bounds(native)
    dx, dy = native.get_surface_transform()
    surface = native.get_surface()
    if isinstance(native, Gtk.Popover):
        dx, dy = dx + surface.get_position_x(), dy + surface.get_position_y()
    return round(box.get_x() + dx), round(box.get_y() + dy), round(box.get_width()), round(box.get_height())


def place_of(widget, inner=""):
    """The way down to a widget's node as the toolkit nests it, states included; inner: a node's name below it."""
    context, top = widget.get_style_context(), widget.get_root()
    context.add_class(MARK)
    told = top.get_style_context().to_string(Gtk.StyleContextPrintFlags.RECURSE)
    context.remove_class(MARK)
    return way_in(told, inner)


def measure_text(screen, name, state, widget, inner=""):
    context = widget.get_style_context()
    colour = context.get_color()
    text = (colour.red * 255, colour.green * 255, colour.blue * 255)
    x, y, w, h = box_of(widget)
    seen = collections.Counter(screen.at(i, j) for i in range(x, x + w) for j in range(y, y + h))
    seen.pop(None, None)
    others = collections.Counter({c: n for c, n in seen.items() if colour.alpha <= 0.9 or ratio(c, text) > 1.15})
    enough = sum(others.values()) > 0.5 * sum(seen.values())
    behind = (others if enough else seen).most_common(1)[0][0]
    # What is really drawn is the strongest pixel, blurred where letters are thin; opacity shows in it.
    strongest = max(seen, key=lambda c: ratio(c, behind))
    solid = tuple(v * colour.alpha + b * (1 - colour.alpha) for v, b in zip(text, behind, strict=True))
    drawn = min(ratio(solid, behind), ratio(strongest, behind) * 1.6)
    record(name, state, "text", drawn, solid, behind, place_of(widget, inner))


def measure_edge(screen, name, state, widget, inner="", reach=5):
    x, y, w, h = box_of(widget)
    middle = y + h // 2
    left, right = screen.at(x - 3, middle), screen.at(x + w + 2, middle)
    columns = range(x, x + min(w, reach))
    if isinstance(widget, Gtk.Switch) and not widget.get_active() and right:  # its knob may jut out on the left
        left, columns = right, range(x + w - min(w, reach), x + w)
    outside = left or right
    best = max((c for c in (screen.at(i, middle) for i in columns) if c), key=lambda c: ratio(c, outside))
    record(name, state, "edge", ratio(best, outside), best, outside, place_of(widget, inner))


def measure_mark(screen, name, state, widget, inner):
    x, y, _, h = box_of(widget)
    middle = y + h // 2
    seen = collections.Counter(screen.at(i, j) for i in range(x + 4, x + 12) for j in range(middle - 4, middle + 4))
    seen.pop(None, None)
    behind = seen.most_common(1)[0][0]
    best = max(seen, key=lambda c: ratio(c, behind))
    if ratio(best, behind) >= 1.05:  # where the theme draws none, a fill tells the state
        record(name, state, "mark", ratio(best, behind), best, behind, place_of(widget, inner))


def set_state(widget, flags):
    widget.set_state_flags(flags, True)
    for child in children(widget):
        set_state(child, flags & SPREAD | child.get_state_flags() & F.CHECKED)  # a check keeps that it is


def each(screen, name, widget, states, text=True, edge=None, inner="", node="", reach=5):
    for state in states:
        widget.set_sensitive(state != "disabled")
        flags = STATES[state]
        if isinstance(widget, (Gtk.CheckButton, Gtk.ToggleButton)):  # what lies in them is told by that alone
            widget.set_active("checked" in state)
        set_state(widget, flags)
        shown(widget)
        labels = labels_in(widget)
        if text:
            measure_text(screen, name, state, labels[0] if labels else widget, "" if labels else inner)
        if edge is not None:
            measure_edge(screen, name, state, edge, node, reach)
            if "checked" in state and name in ("check", "radio"):
                measure_mark(screen, name, state, edge, node)
        widget.set_sensitive(True)
        set_state(widget, REST)


def main(theme, path, picture):
    settings = Gtk.Settings.get_default()
    settings.set_property("gtk-theme-name", theme)
    settings.set_property("gtk-enable-animations", False)
    window = Gtk.Window(title="Ringing log", default_width=640)
    bar = Gtk.HeaderBar()
    new = Gtk.Button(label="New")
    bar.pack_start(new)
    window.set_titlebar(bar)
    column = Gtk.Box(orientation=Gtk.Orientation.VERTICAL, spacing=8)
    for side in ("top", "bottom", "start", "end"):
        column.set_property(f"margin-{side}", 14)
    window.set_child(column)

    def put(widget, wide=False):
        widget.set_halign(Gtk.Align.FILL if wide else Gtk.Align.START)
        column.append(widget)
        return widget

    def styled(widget, *classes):
        for style in classes:
            widget.add_css_class(style)
        return widget

    buttons = {"button": put(Gtk.Button(label="Release the bird"))}
    for style in ("suggested-action", "destructive-action", "flat"):
        buttons[style] = put(styled(Gtk.Button(label="Release the bird"), style))
    toggle = put(Gtk.ToggleButton(label="Ringed"))
    link = put(Gtk.LinkButton(uri="https://reedholm.example", label="ring ledger"))
    check, radio = put(Gtk.CheckButton(label="Read twice")), put(Gtk.CheckButton(label="Adult"))
    radio.set_group(Gtk.CheckButton(label="other"))
    switch, entry = put(Gtk.Switch()), put(Gtk.Entry(text="Bearded reedling"))
    spin, drop = put(Gtk.SpinButton.new_with_range(0, 99, 1)), put(Gtk.DropDown.new_from_strings(["Wren", "Rail"]))
    scale = put(Gtk.Scale.new_with_range(Gtk.Orientation.HORIZONTAL, 0, 9, 1), True)
    scale.set_value(4)
    progress = put(Gtk.ProgressBar(text="37 of 96", show_text=True, fraction=0.4), True)
    words = {"label": put(Gtk.Label(label="Every ring is looked up"))}
    words["dim label"] = put(styled(Gtk.Label(label="thirty-seven"), "dim-label"))
    for kind in ("error", "warning", "success"):
        words[kind] = put(styled(Gtk.Label(label=f"a word of {kind}"), kind))
    rows = put(Gtk.ListBox(), True)
    for name in ("Wren", "Water rail", "quiet"):
        rows.append(styled(Gtk.Label(label=name, xalign=0), *(["dim-label"] if name == "quiet" else [])))
    notebook = put(Gtk.Notebook(), True)
    for name in ("Today", "Nets and poles"):
        notebook.append_page(Gtk.Label(label=f"{name}'s rings"), Gtk.Label(label=name))
    expander, text = put(Gtk.Expander(label="More about it")), put(Gtk.TextView(), True)
    text.get_buffer().set_text("Net 3 is full")
    infobars = {}
    for kind in (Gtk.MessageType.INFO, Gtk.MessageType.WARNING, Gtk.MessageType.QUESTION, Gtk.MessageType.ERROR):
        info = Gtk.InfoBar(message_type=kind)
        info.add_child(Gtk.Label(label="Two rings were read twice"))
        infobars[kind.value_nick] = put(info, True), info.add_button("Read again", 1)
    calendar = put(Gtk.Calendar())
    search, action = put(Gtk.SearchBar(search_mode_enabled=True), True), put(Gtk.ActionBar(), True)
    search.set_child(Gtk.Label(label="Two rings"))
    action.pack_start(Gtk.Label(label="Two rings"))
    stack = Gtk.Stack()
    for name in ("Cameras", "Nets"):
        stack.add_titled(Gtk.Label(label=name), name, name)
    switcher, stacked = put(Gtk.StackSwitcher(stack=stack)), put(Gtk.StackSidebar(stack=stack))
    stacked.set_size_request(200, 90)
    put(stack)
    framed = put(Gtk.Frame(label="Today"), True)
    framed.set_child(Gtk.Label(label="within a frame"))
    notice, osd = put(styled(Gtk.Frame(), "app-notification"), True), put(styled(Gtk.Box(), "osd"))
    notice.set_child(Gtk.Label(label="A ring was merged"))
    osd.append(Gtk.Label(label="Shutter at dawn"))
    side = put(styled(Gtk.Box(), "sidebar"))
    side.append(Gtk.Label(label="Cameras"))
    window.present()
    pump(200)
    window.remove_css_class("solid-csd")  # as where a compositor runs, which the hidden screen has not
    window.add_css_class("csd")
    pump(200)
    screen = Screen(path)
    screen.keep(picture, *box_of(window))

    def one(name, widget, states, **more):
        each(screen, name, widget, states, **more)

    plain = ["rest", "hover", "pressed", "idle"]
    chosen = ["checked", "checked, hover", "checked, idle"]
    for name, button in buttons.items():
        one(name, button, [*plain, "disabled"] if name == "button" else plain)
    one("header button", new, plain)
    title = next(label for label in labels_in(bar) if label.get_text() == "Ringing log")
    for state in ("rest", "idle"):
        set_state(bar, STATES[state])
        shown(bar)
        measure_text(screen, "header title", state, title)
        set_state(bar, REST)
    one("toggle", toggle, [*plain, *chosen])
    one("link button", link, ["rest", "hover"])
    for name, widget in (("check", check), ("radio", radio)):
        one(name, widget, ["rest", "hover", *chosen, "idle"], edge=widget, node=name, reach=24)
    one("switch", switch, ["rest", "hover", "idle"], text=False, edge=switch, reach=24)
    switch.set_active(True)
    one("switch on", switch, chosen, text=False, edge=switch, reach=24)
    one("entry", entry, ["rest", "hover", "focus", "idle"], edge=entry, inner="text")
    one("spin button", spin, ["rest", "hover", "idle"], edge=spin, inner="text")
    one("combo", drop, ["rest", "hover", "idle"], edge=drop, node="button")
    one("scale", scale, ["rest", "hover", "idle"], text=False, edge=scale, node="highlight", reach=26)
    one("progress", progress, ["rest", "idle"], inner="text")
    for name, label in words.items():
        one(name, label, ["rest", "idle", "disabled"] if name == "label" else ["rest", "idle"])
    for name, widget in (
        ("expander", expander), ("osd", osd), ("sidebar", side), ("frame", framed), ("app notification", notice),
        ("search bar", search), ("action bar", action),
    ):  # fmt: skip
        one(name, widget, ["rest", "idle"])
    for i, state in ((0, "selected"), (0, "selected, idle"), (1, "rest"), (1, "hover")):
        row = rows.get_row_at_index(i)
        rows.select_row(row if "selected" in state else None)
        pump()
        one("list row", row, [state])
    rows.select_row(rows.get_row_at_index(2))
    one("dim row", rows.get_row_at_index(2), ["selected"])
    for name, holder, state in (("switcher", switcher, "checked"), ("stack sidebar", stacked, "selected")):
        first, second = labels_in(holder)[:2]
        measure_text(screen, name, state, first)
        measure_text(screen, name, "rest", second)
    for i, state in ((0, "checked"), (1, "rest")):
        measure_text(screen, "tab", state, notebook.get_tab_label(notebook.get_nth_page(i)))
    measure_text(screen, "page", "rest", notebook.get_nth_page(0))
    for name, (widget, reply) in infobars.items():
        one(f"infobar {name}", widget, ["rest", "idle"])
        one(f"infobar {name} button", reply, ["rest", "hover"])
    one("text view", text, ["rest", "idle"], inner="text")
    measure_text(screen, "calendar", "rest", next(label for label in labels_in(calendar) if label.get_text() == "15"))
    popover = Gtk.Popover(autohide=False)
    inner = Gtk.Box(orientation=Gtk.Orientation.VERTICAL)
    word, field = Gtk.Label(label="thirty-seven rings"), Gtk.Button(label="Show on the map")
    inner.append(word)
    inner.append(field)
    popover.set_child(inner)
    popover.set_parent(words["label"])
    popover.popup()
    pump(300)
    one("popover", word, ["rest"])
    one("popover button", field, ["rest", "hover"])
    version = f"{Gtk.get_major_version()}.{Gtk.get_minor_version()}.{Gtk.get_micro_version()}"
    print(json.dumps({"version": version, "rows": ROWS}))


main(*sys.argv[1:])
