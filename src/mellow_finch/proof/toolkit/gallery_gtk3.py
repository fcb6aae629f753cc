"""Measures a theme in the real GTK 3; run by the system's own interpreter on a hidden screen, prints JSON.

Every usual widget is drawn in every state; text is measured against the pixels really behind it, edges against the
pixels beside them. Usage: gallery_gtk3.py THEME [PICTURE.png]; nothing of the program is imported here. What is
printed: {"version": "3.24.38", "rows": [[widget, state, "text" | "edge", ratio, text, surface]]}.
"""

import collections
import json
import sys

import gi

gi.require_version("Gdk", "3.0")
gi.require_version("Gtk", "3.0")
from gi.repository import Gdk, GLib, Gtk  # noqa: E402

F = Gtk.StateFlags
REST = F.NORMAL
ROWS = []


def settle():
    for _ in range(200):
        if not Gtk.events_pending():
            break
        Gtk.main_iteration_do(False)


def pump(milliseconds=40):
    done = []
    GLib.timeout_add(milliseconds, lambda: done.append(1))
    while not done:
        Gtk.main_iteration_do(True)
    settle()


def pixels(top):
    """What is really on the screen where a window is."""
    width, height = top.get_allocated_width(), top.get_allocated_height()
    image = Gdk.pixbuf_get_from_window(top.get_window(), 0, 0, width, height)
    data, stride, channels = image.get_pixels(), image.get_rowstride(), image.get_n_channels()

    def at(x, y):
        if not (0 <= x < width and 0 <= y < height):
            return None
        i = int(y) * stride + int(x) * channels
        return data[i], data[i + 1], data[i + 2]

    return at


def channel(v):
    v /= 255
    return v / 12.92 if v <= 0.04045 else ((v + 0.055) / 1.055) ** 2.4


def lum(c):
    return 0.2126 * channel(c[0]) + 0.7152 * channel(c[1]) + 0.0722 * channel(c[2])


def ratio(a, b):
    x, y = sorted((lum(a), lum(b)))
    return (y + 0.05) / (x + 0.05)


def hexed(c):
    return "#" + "".join(f"{int(v):02x}" for v in c)


def box_of(widget, top):
    where = widget.translate_coordinates(top, 0, 0)
    if where is None:
        return None
    return where[0], where[1], widget.get_allocated_width(), widget.get_allocated_height()


def label_of(widget):
    if isinstance(widget, Gtk.Label):
        return widget
    if isinstance(widget, Gtk.Container):
        found = []
        widget.forall(lambda child: found.append(label_of(child)))
        return next((f for f in found if f is not None), None)
    return None


def labels_in(widget):
    found = [widget] if isinstance(widget, Gtk.Label) else []
    if isinstance(widget, Gtk.Container):
        children = []
        widget.forall(children.append)
        for child in children:
            found += labels_in(child)
    return found


def measure_text(name, state, widget, top, box=None):
    """Text colour as the toolkit resolves it, over the commonest pixel in the text's own box."""
    at = pixels(top)
    x, y, w, h = box or box_of(widget, top)
    seen = collections.Counter(at(i, j) for i in range(x, x + w) for j in range(y, y + h))
    seen.pop(None, None)
    behind = seen.most_common(1)[0][0]
    context = widget.get_style_context()
    colour = context.get_color(context.get_state())
    text = tuple(
        round(v * 255 * colour.alpha + b * (1 - colour.alpha))
        for v, b in zip((colour.red, colour.green, colour.blue), behind, strict=True)
    )
    # What is drawn must really be there: some pixel comes close to the colour that was resolved.
    strongest = max(seen, key=lambda c: ratio(c, behind))
    drawn = min(ratio(text, behind), ratio(strongest, behind) * 1.6)
    ROWS.append([name, state, "text", round(drawn, 3), hexed(text), hexed(behind)])


def measure_edge(name, state, widget, top, box=None):
    """The strongest pixel in the first pixels of the left edge, against what lies just outside it."""
    at = pixels(top)
    x, y, w, h = box or box_of(widget, top)
    middle = y + h // 2
    outside = at(x - 3, middle) or at(x + w + 2, middle)
    rows = range(y, y + h) if isinstance(widget, (Gtk.Scale, Gtk.ProgressBar)) else [middle]
    reach = 12 if isinstance(widget, Gtk.ProgressBar) else 26  # not so far that words above a bar are reached
    inside = [at(i, j) for j in rows for i in range(x, x + min(w, reach))]
    best = max((c for c in inside if c), key=lambda c: ratio(c, outside))
    ROWS.append([name, state, "edge", round(ratio(best, outside), 3), hexed(best), hexed(outside)])


STATES = {
    "rest": REST,
    "hover": F.PRELIGHT,
    "pressed": F.ACTIVE | F.PRELIGHT,
    "checked": F.CHECKED,
    "disabled": F.INSENSITIVE,
    "idle": F.BACKDROP,
    "focus": F.FOCUSED,
    "selected": F.SELECTED,
}


def set_state(widget, flags):
    widget.set_state_flags(flags, True)
    if isinstance(widget, Gtk.Container):
        widget.forall(lambda child: set_state(child, flags & (F.INSENSITIVE | F.BACKDROP)))


def each(name, widget, top, states, text=True, edge=False, target=None):
    for state in states:
        flags = STATES[state]
        if state == "disabled":
            widget.set_sensitive(False)
        set_state(widget, flags)
        pump(20)
        if text:
            measure_text(name, state, label_of(widget) or widget, top)
        if edge:
            measure_edge(name, state, target or widget, top)
        widget.set_sensitive(True)
        set_state(widget, REST)


def main(theme, picture=""):
    settings = Gtk.Settings.get_default()
    settings.set_property("gtk-theme-name", theme)
    settings.set_property("gtk-enable-animations", False)
    window = Gtk.Window(title="Ringing log")
    window.set_default_size(700, 900)
    bar = Gtk.HeaderBar(title="Ringing log", subtitle="hide 2")
    flat = Gtk.Button(label="New")
    bar.pack_start(flat)
    window.set_titlebar(bar)
    column = Gtk.Box(orientation=Gtk.Orientation.VERTICAL, spacing=8, margin=12)
    scroller = Gtk.ScrolledWindow()
    scroller.add(column)
    window.add(scroller)

    def put(widget, grow=False):
        row = Gtk.Box(margin_start=10)
        row.pack_start(widget, grow, grow, 0)
        column.pack_start(row, False, False, 0)
        return widget

    buttons = {}
    for style in ("", "suggested-action", "destructive-action", "flat"):
        button = put(Gtk.Button(label="Release the bird"))
        if style:
            button.get_style_context().add_class(style)
        buttons[style or "button"] = button
    toggle = put(Gtk.ToggleButton(label="Ringed"))
    linkbutton = put(Gtk.LinkButton(uri="https://reedholm.example", label="ring ledger"))
    check, radio = put(Gtk.CheckButton(label="Read twice")), put(Gtk.RadioButton(label="Adult"))
    switch = put(Gtk.Switch())
    entry, spin = put(Gtk.Entry(text="Bearded reedling")), put(Gtk.SpinButton.new_with_range(0, 99, 1))
    combo = put(Gtk.ComboBoxText())
    combo.append_text("Wren")
    combo.set_active(0)
    scale = put(Gtk.Scale.new_with_range(Gtk.Orientation.HORIZONTAL, 0, 9, 1), True)
    scale.set_value(4)
    scale.set_draw_value(False)
    progress = put(Gtk.ProgressBar(text="37 of 96", show_text=True, fraction=0.0), True)
    level = put(Gtk.LevelBar(value=0.6), True)
    label, dim = put(Gtk.Label(label="Every ring is looked up")), put(Gtk.Label(label="thirty-seven"))
    dim.get_style_context().add_class("dim-label")
    markup = put(Gtk.Label())
    markup.set_markup('see <a href="x">the ledger</a>')
    for kind in ("error", "warning", "success"):
        word = put(Gtk.Label(label=f"a word of {kind}"))
        word.get_style_context().add_class(kind)
        buttons[kind] = word
    rows = put(Gtk.ListBox(), True)
    for words in ("Wren", "Water rail"):
        row = Gtk.ListBoxRow()
        row.add(Gtk.Label(label=words, xalign=0))
        rows.add(row)
    notebook = Gtk.Notebook()
    notebook.append_page(Gtk.Label(label="Today's rings"), Gtk.Label(label="Today"))
    notebook.append_page(Gtk.Label(label="Nets"), Gtk.Label(label="Nets and poles"))
    put(notebook, True)
    frame = put(Gtk.Expander(label="More about it"))
    text = Gtk.TextView()
    text.get_buffer().set_text("Net 3 is full")
    put(text, True)
    store = Gtk.ListStore(str)
    store.append(["Kingfisher"])
    tree = Gtk.TreeView(model=store)
    tree.append_column(Gtk.TreeViewColumn("Species", Gtk.CellRendererText(), text=0))
    pane = Gtk.ScrolledWindow(width_request=300, height_request=90)
    pane.add(tree)
    put(pane, True)
    infobars = {}
    for kind in (Gtk.MessageType.INFO, Gtk.MessageType.WARNING, Gtk.MessageType.QUESTION, Gtk.MessageType.ERROR):
        info = Gtk.InfoBar(message_type=kind)
        info.get_content_area().add(Gtk.Label(label="Two rings were read twice"))
        infobars[kind.value_nick] = put(info, True)
    menubar = Gtk.MenuBar()
    item = Gtk.MenuItem(label="Places")
    menubar.append(item)
    put(menubar, True)
    calendar = put(Gtk.Calendar())
    toolbar = Gtk.Toolbar()
    toolbar.insert(Gtk.ToolButton(label="Merge"), 0)
    put(toolbar, True)
    tip = Gtk.Window(type=Gtk.WindowType.POPUP)
    tip.set_name("gtk-tooltip")
    tip.get_style_context().add_class("tooltip")
    osd = put(Gtk.Box())
    osd.get_style_context().add_class("osd")
    osd.add(Gtk.Label(label="Shutter at dawn"))
    side = put(Gtk.Box())
    side.get_style_context().add_class("sidebar")
    side.add(Gtk.Label(label="Cameras"))
    window.resize(700, 2700)
    window.show_all()
    pump(300)
    if picture:
        width, height = window.get_allocated_width(), window.get_allocated_height()
        Gdk.pixbuf_get_from_window(window.get_window(), 0, 0, width, height).savev(picture, "png", [], [])

    plain = ["rest", "hover", "pressed", "idle"]
    for name, button in buttons.items():
        each(name, button, window, ["rest"] if isinstance(button, Gtk.Label) else plain)
    each("header button", flat, window, plain)
    for state in ("rest", "idle"):
        set_state(bar, STATES[state])
        pump(20)
        for each_label in labels_in(bar):
            kind = "subtitle" if each_label.get_style_context().has_class("subtitle") else "title"
            if each_label is not label_of(flat):
                measure_text(f"header {kind}", state, each_label, window)
        set_state(bar, REST)
    each("toggle", toggle, window, [*plain, "checked"])
    each("link button", linkbutton, window, ["rest", "hover"])
    for name, widget in (("check", check), ("radio", radio)):
        each(name, widget, window, ["rest", "hover", "checked", "idle"], edge=True)
    each("switch", switch, window, ["rest", "hover", "checked", "idle"], text=False, edge=True)
    switch.set_active(True)
    each("switch on", switch, window, ["rest", "hover", "idle"], text=False, edge=True)
    each("entry", entry, window, ["rest", "hover", "focus", "idle"], edge=True)
    each("spin button", spin, window, ["rest", "hover", "idle"], edge=True)
    each("combo", combo, window, ["rest", "idle"], edge=True)
    each("scale", scale, window, ["rest", "hover", "idle"], text=False, edge=True, target=scale)
    each("progress", progress, window, ["rest", "idle"], edge=True)
    each("level", level, window, ["rest"], text=False, edge=True)
    for name, widget in (
        ("label", label),
        ("dim label", dim),
        ("markup", markup),
        ("expander", frame),
        ("osd", osd),
        ("sidebar", side),
        ("toolbar", toolbar),
    ):
        each(name, widget, window, ["rest", "idle"])
    for i, state in ((0, "selected"), (1, "rest"), (1, "hover")):
        row = rows.get_row_at_index(i)
        if state == "selected":
            rows.select_row(row)
            pump(20)
        each("list row", row, window, [state])
    for i, state in ((0, "checked"), (1, "rest")):
        measure_text("tab", state, notebook.get_tab_label(notebook.get_nth_page(i)), window)
    measure_text("page", "rest", notebook.get_nth_page(0), window)
    for name, widget in infobars.items():
        each(f"infobar {name}", widget, window, ["rest", "idle"])
    each("menu bar item", item, window, ["rest", "hover", "idle"])
    each("text view", text, window, ["rest", "idle"])
    for state in ("rest", "idle"):
        set_state(tree, STATES[state])
        pump(20)
        measure_text("tree view", state, tree, window)
    set_state(tree, REST)
    head = tree.get_column(0).get_button()
    each("column head", head, window, ["rest", "hover"])
    each("calendar", calendar, window, ["rest", "idle"])

    menu = Gtk.Menu()
    entries = {
        "menu item": Gtk.MenuItem(label="Copy ring"),
        "menu check": Gtk.CheckMenuItem(label="Keep in the ledger"),
    }
    for widget in entries.values():
        menu.append(widget)
    menu.show_all()
    menu.popup_at_widget(label, Gdk.Gravity.SOUTH_WEST, Gdk.Gravity.NORTH_WEST, None)
    pump(200)
    top = menu.get_toplevel()
    for name, widget in entries.items():
        each(name, widget, top, ["rest", "hover"])
    menu.popdown()

    popover = Gtk.Popover(relative_to=label)
    inner = Gtk.Box(orientation=Gtk.Orientation.VERTICAL, margin=8)
    model = Gtk.ModelButton(text="Show on the map")
    word = Gtk.Label(label="thirty-seven rings")
    inner.add(model)
    inner.add(word)
    popover.add(inner)
    popover.set_modal(False)
    inner.show_all()
    popover.popup()
    pump(250)
    each("popover", word, window, ["rest"])
    each("popover button", model, window, ["rest", "hover"])

    # Disabled things have a lower floor; they are told apart by their state.
    for name, widget in (
        ("button", buttons["button"]),
        ("entry", entry),
        ("check", check),
        ("combo", combo),
        ("label", label),
    ):
        each(name, widget, window, ["disabled"])
    version = f"{Gtk.get_major_version()}.{Gtk.get_minor_version()}.{Gtk.get_micro_version()}"
    print(json.dumps({"version": version, "rows": ROWS}))


main(*sys.argv[1:])
