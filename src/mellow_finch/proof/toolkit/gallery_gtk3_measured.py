"""What `gallery_gtk3.py` measures with: pixels of a widget's window, places of its nodes, states that it is put in."""

import collections
import sys
from pathlib import Path

import gi

gi.require_version("Gdk", "3.0")
gi.require_version("Gtk", "3.0")
from gi.repository import Gdk, GLib, Gtk  # noqa: E402

sys.path.insert(0, str(Path(__file__).parent))
from gallery_common import MARK, ratio, record, states_of, way_in  # noqa: E402

F = Gtk.StateFlags
REST, STATES = F.NORMAL, states_of(F)


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
        children: list[Gtk.Widget] = []
        widget.forall(children.append)
        for child in children:
            found += labels_in(child)
    return found


# Pixels from the left in which something may show, of what may have a drawing instead of a frame.
_REACHES = (
    (Gtk.ProgressBar, 12),
    (Gtk.CheckButton, 16),
    ((Gtk.Switch, Gtk.Scale, Gtk.LevelBar), 26),
)


def place_of(widget, top, inner=""):
    """The way down to a widget's node as the toolkit nests it, states included; inner: a node's name below it."""
    context = widget.get_style_context()
    context.add_class(MARK)
    told = top.get_style_context().to_string(Gtk.StyleContextPrintFlags.RECURSE)
    context.remove_class(MARK)
    return way_in(told, inner)


def behind_text(at, box, text=None):
    """The commonest pixel of a box, and all of its pixels; on a gradient the text's own may be commonest."""
    x, y, w, h = box
    seen = collections.Counter(at(i, j) for i in range(x, x + w) for j in range(y, y + h))
    seen.pop(None, None)
    others = collections.Counter({c: n for c, n in seen.items() if text is None or ratio(c, text) > 1.15})
    enough = sum(others.values()) > 0.5 * sum(seen.values())
    return (others if enough else seen).most_common(1)[0][0], seen


def measure_text(name, state, widget, top, box=None, flags=None, place=None, inner=""):
    """Text colour as the toolkit resolves it, over the commonest pixel in the text's own box."""
    context = widget.get_style_context()
    colour = context.get_color(context.get_state() if flags is None else flags)
    own = (colour.red * 255, colour.green * 255, colour.blue * 255) if colour.alpha > 0.9 else None
    behind, seen = behind_text(pixels(top), box or box_of(widget, top), own)
    faint = opacity_of(widget)
    text = tuple(
        v * 255 * colour.alpha * faint + b * (1 - colour.alpha * faint)
        for v, b in zip((colour.red, colour.green, colour.blue), behind, strict=True)
    )
    text = tuple(round(v) for v in text)
    # What is drawn must really be there: some pixel comes close to the colour that was resolved.
    strongest = max(seen, key=lambda c: ratio(c, behind))
    drawn = min(ratio(text, behind), ratio(strongest, behind) * 1.6)
    where = place if place is not None else place_of(widget, top, inner)
    record(name, state, "text", drawn, text, behind, where)


def opacity_of(widget):
    """How much of a widget is seen through the opacity of all that it lies in."""
    value = 1.0
    while widget is not None:
        context = widget.get_style_context()
        value *= context.get_property("opacity", context.get_state())
        widget = widget.get_parent()
    return value


def measure_edge(name, state, widget, top, box=None, inner=""):
    """The strongest pixel in the first pixels of the left edge, against what lies just outside it."""
    at = pixels(top)
    x, y, w, h = box or box_of(widget, top)
    middle = y + h // 2
    left, right = at(x - 3, middle), at(x + w + 2, middle)
    outside = left or right
    rows = range(y, y + h) if isinstance(widget, (Gtk.Scale, Gtk.ProgressBar)) else [middle]
    # Not so far that words in a field, above a bar or beside a check are reached.
    reach = next((n for kind, n in _REACHES if isinstance(widget, kind)), 5)
    columns = range(x, x + min(w, reach))
    if isinstance(widget, Gtk.Switch) and not widget.get_active() and right:  # its knob lies on the left
        outside, columns = right, range(x + w - min(w, reach), x + w)
    inside = [at(i, j) for j in rows for i in columns]
    best = max((c for c in inside if c), key=lambda c: ratio(c, outside))
    record(name, state, "edge", ratio(best, outside), best, outside, place_of(widget, top, inner))


def measure_mark(name, state, widget, top, inner=""):
    """The strongest pixel of a tick or dot against the commonest one around it."""
    x, y, _, h = box_of(widget, top)
    middle = y + h // 2
    at = pixels(top)
    box = (x + 4, middle - 4, 8, 8)
    behind, seen = behind_text(at, box)
    best = max(seen, key=lambda c: ratio(c, behind))
    if ratio(best, behind) < 1.05:  # the theme draws none: a fill tells the state
        return
    record(name, state, "mark", ratio(best, behind), best, behind, place_of(widget, top, inner))


def set_state(widget, flags):
    widget.set_state_flags(flags, True)
    if isinstance(widget, Gtk.Container):
        widget.forall(lambda child: set_state(child, flags & (F.INSENSITIVE | F.BACKDROP)))


def each(name, widget, top, states, text=True, edge=False, target=None, inner="", node="", mark=False):
    """Measure a widget in states; inner: the node that has its text; node: that of its edge or mark."""
    for state in states:
        flags = STATES[state]
        if state == "disabled":
            widget.set_sensitive(False)
        set_state(widget, flags)
        pump(12)
        if text:
            measure_text(name, state, label_of(widget) or widget, top, inner=inner)
        if edge:
            measure_edge(name, state, target or widget, top, inner=node)
        if mark and "checked" in state:
            measure_mark(name, state, widget, top, inner=node)
        widget.set_sensitive(True)
        set_state(widget, REST)


def rows_of(tree, top):
    """Rows of a tree are no widgets: they are chosen, and measured where they lie."""
    column = tree.get_column(0)
    first = Gtk.TreePath.new_from_indices([0])
    area = tree.get_cell_area(first, column)
    x, y = tree.convert_bin_window_to_widget_coords(area.x, area.y)
    left, up = tree.translate_coordinates(top, x, y)
    for state, flags in (
        ("rest", F.NORMAL),
        ("selected", F.SELECTED | F.FOCUSED),
        ("selected, idle", F.SELECTED | F.BACKDROP),
    ):
        (tree.get_selection().select_path if F.SELECTED & flags else tree.get_selection().unselect_path)(first)
        set_state(tree, F.BACKDROP if F.BACKDROP & flags else F.FOCUSED if F.FOCUSED & flags else REST)
        pump(30)
        own = {"rest": "", "selected": ":selected:focus", "selected, idle": ":backdrop:selected"}[state]
        place = place_of(tree, top).partition("treeview")[0] + "treeview.view" + own
        box = (left + 1, up, min(area.width, 80), area.height)
        measure_text("tree row", state, tree, top, box, flags, place)
    tree.get_selection().unselect_all()
    set_state(tree, REST)


def tooltip_of(widget, top):
    """The tooltip of a widget, which the toolkit shows by itself where the pointer rests; None when it does not."""
    widget.set_tooltip_text("Read at dawn")
    x, y, w, h = box_of(widget, top)
    _, left, up = top.get_window().get_origin()
    pointer = Gdk.Display.get_default().get_default_seat().get_pointer()
    for step in (3, 1, 0):
        pointer.warp(Gdk.Screen.get_default(), left + x + w // 2 + step, up + y + h // 2)
        pump(60)
    for _ in range(20):
        pump(60)
        for each_top in Gtk.Window.list_toplevels():
            if each_top.get_visible() and "tooltip" in each_top.get_style_context().to_string(0).partition(":")[0]:
                return each_top
    return None
