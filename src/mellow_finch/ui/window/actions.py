"""Every action of the window as rows: menus, tooltips, the shortcut list and the tests read them."""

from __future__ import annotations

from dataclasses import dataclass

from ...language import tr


@dataclass(frozen=True, slots=True)
class ActionSpec:
    """One action. needs_look: only there is a look."""

    id: str
    text: str
    shortcut: str
    tip: str
    menu: str = ""
    needs_look: bool = False


ACTIONS: tuple[ActionSpec, ...] = (
    ActionSpec("open_picture", tr("Open pictures…"), "Ctrl+O", tr("Choose pictures to take colours from"), tr("Look")),
    ActionSpec(
        "import_palette", tr("Import a palette…"), "Ctrl+Shift+P", tr("Take the colours of a palette file"), tr("Look")
    ),
    ActionSpec("open_theme", tr("Start from a theme…"), "", tr("Read a theme's colours in their roles"), tr("Look")),
    ActionSpec("open_look", tr("Open a look…"), "Ctrl+Shift+O", tr("Open a look that was saved"), tr("Look")),
    ActionSpec("shelf", tr("The Shelf"), "Ctrl+B", tr("See the looks that you kept"), tr("Look")),
    ActionSpec(
        "keep",
        tr("Keep on the Shelf"),
        "Ctrl+Shift+S",
        tr("Keep the look with a copy of its pictures"),
        tr("Look"),
        True,
    ),
    ActionSpec("save_look", tr("Save the look…"), "Ctrl+S", tr("Save the look as one file"), tr("Look"), True),
    ActionSpec(
        "export_palette",
        tr("Export the palette…"),
        "Ctrl+E",
        tr("Write the colours as a palette file"),
        tr("Look"),
        True,
    ),
    ActionSpec(
        "follow",
        tr("Follow the day…"),
        "",
        tr("Follow the wallpaper and the time of day, without the window"),
        tr("Look"),
    ),
    ActionSpec(
        "report", tr("Save a report…"), "", tr("Readability to show others, as a page or as PDF"), tr("Look"), True
    ),
    ActionSpec("rename", tr("Name the look…"), "F2", tr("Give the look a name"), tr("Look"), True),
    ActionSpec("quit", tr("Quit"), "Ctrl+Q", tr("Close the window"), tr("Look")),
    ActionSpec("undo", tr("Undo"), "Ctrl+Z", tr("Undo the last step"), tr("Edit")),
    ActionSpec("redo", tr("Redo"), "Ctrl+Shift+Z", tr("Do the undone step again"), tr("Edit")),
    ActionSpec(
        "tone", tr("Dark or light"), "Ctrl+T", tr("Switch between the look's dark and light half"), tr("Edit"), True
    ),
    ActionSpec("lock", tr("Lock the role"), "Ctrl+L", tr("Lock or free the selected role"), tr("Edit"), True),
    ActionSpec("mend_all", tr("Mend all"), "Ctrl+M", tr("Make every failing pair readable"), tr("Edit"), True),
    ActionSpec(
        "preferences", tr("Preferences…"), "Ctrl+,", tr("Appearance, the need of new looks, what is asked"), tr("Edit")
    ),
    ActionSpec(
        "steps", tr("Steps taken"), "Ctrl+H", tr("See every step, compare any two, keep variants"), tr("Edit"), True
    ),
    ActionSpec("dropper", tr("Eyedropper"), "Ctrl+I", tr("Pick a colour off the picture"), tr("View"), True),
    ActionSpec(
        "screen_dropper",
        tr("Eyedropper for the screen"),
        "Ctrl+Shift+I",
        tr("Pick a colour off any window"),
        tr("View"),
        True,
    ),
    ActionSpec("curtain", tr("Curtain"), "Ctrl+K", tr("Before on one side, after on the other"), tr("View"), True),
    ActionSpec(
        "appearance",
        tr("Light window"),
        "Ctrl+Shift+L",
        tr("Show this window light or dark; the look does not change"),
        tr("View"),
    ),
    ActionSpec(
        "find",
        tr("Find anything…"),
        "Ctrl+F",
        tr("Find roles, components, schemes, looks and actions by name"),
        tr("Go"),
    ),
    ActionSpec("step_gather", tr("Gather"), "Ctrl+1", tr("Choose a picture and take its colours"), tr("Go")),
    ActionSpec("step_tune", tr("Tune"), "Ctrl+2", tr("Decide which colour goes where"), tr("Go"), True),
    ActionSpec("step_dress", tr("Dress"), "Ctrl+3", tr("See what every component will get"), tr("Go"), True),
    ActionSpec("step_proof", tr("Proof"), "Ctrl+4", tr("Find and mend what cannot be read"), tr("Go"), True),
    ActionSpec("step_wear", tr("Wear"), "Ctrl+5", tr("Put the files in place, and get back"), tr("Go"), True),
    ActionSpec("guide", tr("Guide"), "F1", tr("Read about the step in sight"), tr("Help")),
    ActionSpec(
        "tour", tr("Take the tour"), "", tr("Five steps on a made-up home; nothing of yours is touched"), tr("Help")
    ),
    ActionSpec(
        "whats_this", tr("What is this?"), "Shift+F1", tr("Then click a control: it says what it does"), tr("Help")
    ),
    ActionSpec("shortcuts", tr("Keyboard shortcuts"), "Ctrl+F1", tr("List every shortcut"), tr("Help")),
    ActionSpec(
        "fault_report",
        tr("Save a fault report…"),
        "",
        tr("What runs here and what went wrong, as text without private paths"),
        tr("Help"),
    ),
    ActionSpec("take_off", tr("Take the look off"), "", tr("Show how to go back to what was there before"), tr("Go")),
    ActionSpec("about", tr("About Mellow Finch"), "", tr("Version and licences"), tr("Help")),
)
