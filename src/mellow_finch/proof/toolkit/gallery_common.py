"""What the galleries of both generations share; nothing of a toolkit and nothing of the program is imported here."""

MARK = "finch-here"  # the class by which a node is found again in what the toolkit tells of its tree
# The states of widgets, by the names of the toolkit's flags.
STATES = {
    "rest": (),
    "hover": ("PRELIGHT",),
    "pressed": ("ACTIVE", "PRELIGHT"),
    "checked": ("CHECKED",),
    "disabled": ("INSENSITIVE",),
    "idle": ("BACKDROP",),
    "focus": ("FOCUSED",),
    "selected": ("SELECTED",),
    "selected, idle": ("SELECTED", "BACKDROP"),
    "checked, hover": ("CHECKED", "PRELIGHT"),
    "checked, idle": ("CHECKED", "BACKDROP"),
}
ROWS: list[list[object]] = []


def states_of(flags):
    """Every state as the toolkit's flags."""
    out = {}
    for name, words in STATES.items():
        value = flags.NORMAL
        for word in words:
            value |= getattr(flags, word)
        out[name] = value
    return out


def channel(v):
    v /= 255
    return v / 12.92 if v <= 0.04045 else ((v + 0.055) / 1.055) ** 2.4


def ratio(a, b):
    x, y = sorted(0.2126 * channel(c[0]) + 0.7152 * channel(c[1]) + 0.0722 * channel(c[2]) for c in (a, b))
    return (y + 0.05) / (x + 0.05)


def hexed(c):
    return "#" + "".join(f"{int(v):02x}" for v in c)


def way_in(told, inner=""):
    """The way down to the marked node in a tree as the toolkit tells it; inner: the name of a node below it."""
    way: list[str] = []
    here, found = None, ""
    for line in told.splitlines():
        depth = (len(line) - len(line.lstrip())) // 2
        if here is not None and depth <= here:
            break
        node = line.strip().strip("[]").replace(":dir(ltr)", "").replace(":focus-within", "")
        way[depth:] = [node.replace(f".{MARK}", "")]
        if here is None and f".{MARK}" in node:
            here, found = depth, " > ".join(way)
            if not inner:
                return found
        elif here is not None and node.partition(".")[0].partition(":")[0] == inner:
            return " > ".join(way)
    return found


def record(name, state, what, value, colour, behind, place):
    ROWS.append([name, state, what, round(value, 3), hexed(colour), hexed(behind), place])
