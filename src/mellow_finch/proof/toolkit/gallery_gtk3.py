"""Measures a theme in the real GTK 3; run by the system's own interpreter on a hidden screen, prints JSON.

Every usual widget is drawn in every state; text is measured against the pixels really behind it, edges against the
pixels beside them. Usage: gallery_gtk3.py THEME [PICTURE.png]; nothing of the program is imported here. What is
printed: {"version": "3.24.38", "rows": [[widget, state, "text" | "edge" | "mark", ratio, text, surface, place]]}; a
place is the way down to the node as the toolkit nests it, with the states it is in.
"""

import json
import sys
from pathlib import Path

import gi

gi.require_version("Gdk", "3.0")
gi.require_version("Gtk", "3.0")
from gi.repository import Gdk, Gtk  # noqa: E402

sys.path.insert(0, str(Path(__file__).parent))
from gallery_common import ROWS  # noqa: E402
from gallery_gtk3_measured import (  # noqa: E402
    REST,
    STATES,
    F,
    each,
    label_of,
    labels_in,
    measure_text,
    pump,
    rows_of,
    set_state,
    tooltip_of,
)


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
        infobars[kind.value_nick] = put(info, True), info.add_button("Read again", 1)
    menubar = Gtk.MenuBar()
    item = Gtk.MenuItem(label="Places")
    menubar.append(item)
    put(menubar, True)
    calendar = put(Gtk.Calendar())
    toolbar = Gtk.Toolbar()
    tool = Gtk.ToolButton(label="Merge")
    toolbar.insert(tool, 0)
    put(toolbar, True)
    listed = {}
    for name, holder in (("search bar", Gtk.SearchBar(search_mode_enabled=True)), ("action bar", Gtk.ActionBar())):
        holder.add(Gtk.Label(label="Two rings"))
        listed[name] = put(holder, True)
    stack = Gtk.Stack()
    for words in ("Cameras", "Nets"):
        stack.add_titled(Gtk.Label(label=words), words, words)
    switcher, stacked = Gtk.StackSwitcher(stack=stack), Gtk.StackSidebar(stack=stack)
    stacked.set_size_request(200, 90)
    put(switcher), put(stacked), put(stack)
    framed = put(Gtk.Frame(label="Today"), True)
    framed.add(Gtk.Label(label="within a frame"))
    notice = put(Gtk.Frame(), True)
    notice.get_style_context().add_class("app-notification")
    notice.add(Gtk.Label(label="A ring was merged"))
    dimmed = Gtk.Label(label="a quiet word")
    dimmed.get_style_context().add_class("dim-label")
    row = Gtk.ListBoxRow()
    row.add(dimmed)
    rows.add(row)
    status = put(Gtk.Statusbar(), True)
    status.push(0, "37 of 96 read")
    osd = put(Gtk.Box())
    osd.get_style_context().add_class("osd")
    osd.add(Gtk.Label(label="Shutter at dawn"))
    side = put(Gtk.Box())
    side.get_style_context().add_class("sidebar")
    side.add(Gtk.Label(label="Cameras"))
    window.show_all()
    window.resize(700, min(4400, column.get_preferred_height()[1] + 200))
    pump(300)
    if picture:
        width, height = window.get_allocated_width(), window.get_allocated_height()
        Gdk.pixbuf_get_from_window(window.get_window(), 0, 0, width, height).savev(picture, "png", [], [])

    plain = ["rest", "hover", "pressed", "idle"]
    for name, button in buttons.items():
        each(name, button, window, ["rest"] if isinstance(button, Gtk.Label) else plain)
    for name in ("suggested-action", "destructive-action"):
        each(name, buttons[name], window, ["checked", "checked, hover"])
    each("header button", flat, window, [*plain, "checked"])
    for state in ("rest", "idle"):
        set_state(bar, STATES[state])
        pump(20)
        for each_label in labels_in(bar):
            kind = "subtitle" if each_label.get_style_context().has_class("subtitle") else "title"
            if each_label is not label_of(flat):
                measure_text(f"header {kind}", state, each_label, window)
        set_state(bar, REST)
    each("toggle", toggle, window, [*plain, "checked", "checked, hover", "checked, idle"])
    each("link button", linkbutton, window, ["rest", "hover"])
    chosen = ["checked", "checked, hover", "checked, idle"]
    for name, widget in (("check", check), ("radio", radio)):
        each(name, widget, window, ["rest", "hover", *chosen, "idle"], edge=True, node=name, mark=True)
    each("switch", switch, window, ["rest", "hover", "idle"], text=False, edge=True)
    switch.set_active(True)
    each("switch on", switch, window, chosen, text=False, edge=True)
    entry.select_region(0, 0)
    each("entry", entry, window, ["rest", "hover", "focus", "idle"], edge=True)
    each("spin button", spin, window, ["rest", "hover", "idle"], edge=True)
    each("combo", combo, window, ["rest", "hover", "idle"], edge=True, inner="cellview", node="button")
    each("scale", scale, window, ["rest", "hover", "idle"], text=False, edge=True, target=scale, node="highlight")
    each("progress", progress, window, ["rest", "idle"], edge=True, inner="text", node="trough")
    each("level", level, window, ["rest"], text=False, edge=True, node="block")
    for name, widget in (
        ("label", label),
        ("dim label", dim),
        ("markup", markup),
        ("expander", frame),
        ("osd", osd),
        ("sidebar", side),
        ("frame", framed),
        ("app notification", notice),
        ("status bar", status),
        *listed.items(),
    ):
        each(name, widget, window, ["rest", "idle"])
    each("tool button", tool.get_child(), window, plain)
    for i, state in ((0, "selected"), (0, "selected, idle"), (1, "rest"), (1, "hover")):
        row = rows.get_row_at_index(i)
        if "selected" in state:
            rows.select_row(row)
            pump(20)
        each("list row", row, window, [state])
    rows.select_row(rows.get_row_at_index(2))
    each("dim row", rows.get_row_at_index(2), window, ["selected"])
    for name, holder in (("switcher", switcher), ("stack sidebar", stacked)):
        first, second = labels_in(holder)[:2]
        measure_text(name, "checked" if name == "switcher" else "selected", first, window)
        measure_text(name, "rest", second, window)
    for i, state in ((0, "checked"), (1, "rest")):
        measure_text("tab", state, notebook.get_tab_label(notebook.get_nth_page(i)), window)
    set_state(notebook, F.BACKDROP)
    pump(20)
    for i, state in ((0, "checked, idle"), (1, "idle")):
        measure_text("tab", state, notebook.get_tab_label(notebook.get_nth_page(i)), window)
    set_state(notebook, REST)
    measure_text("page", "rest", notebook.get_nth_page(0), window)
    for name, (widget, answer) in infobars.items():
        each(f"infobar {name}", widget, window, ["rest", "idle"])
        each(f"infobar {name} button", answer, window, ["rest", "hover"])
    each("menu bar item", item, window, ["rest", "hover", "idle", "disabled"])
    each("text view", text, window, ["rest", "idle"], inner="text")
    rows_of(tree, window)
    head = tree.get_column(0).get_button()
    each("column head", head, window, ["rest", "hover", "idle"])
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
    each("menu item", entries["menu item"], top, ["disabled"])
    menu.popdown()
    tip = tooltip_of(dim, window)
    if tip is not None:
        each("tooltip", tip, tip, ["rest"])
        Gdk.Display.get_default().get_default_seat().get_pointer().warp(Gdk.Screen.get_default(), 0, 0)

    popover = Gtk.Popover(relative_to=label)
    inner = Gtk.Box(orientation=Gtk.Orientation.VERTICAL, margin=8)
    model = Gtk.ModelButton(text="Show on the map")
    word = Gtk.Label(label="thirty-seven rings")
    field = Gtk.Entry(text="a name")
    inner.add(model)
    inner.add(word)
    inner.add(field)
    popover.add(inner)
    popover.set_modal(False)
    inner.show_all()
    popover.popup()
    pump(250)
    each("popover", word, window, ["rest"])
    each("popover button", model, window, ["rest", "hover"])
    each("popover entry", field, window, ["rest"], edge=True)

    # Disabled things have a lower floor; they are distinguished by their state.
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
