"""Every action of the window as rows: menus, tooltips, the shortcut list and the tests read them."""

from __future__ import annotations

from dataclasses import dataclass


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
    ActionSpec("open_picture", "Open pictures…", "Ctrl+O", "Choose pictures to take colours from", "Look"),
    ActionSpec("import_palette", "Import a palette…", "Ctrl+Shift+P", "Take the colours of a palette file", "Look"),
    ActionSpec("open_theme", "Start from a theme…", "", "Read a theme's colours in their roles", "Look"),
    ActionSpec("open_look", "Open a look…", "Ctrl+Shift+O", "Open a look that was saved", "Look"),
    ActionSpec("shelf", "The Shelf", "Ctrl+B", "See the looks that you kept", "Look"),
    ActionSpec("keep", "Keep on the Shelf", "Ctrl+Shift+S", "Keep the look with a copy of its pictures", "Look", True),
    ActionSpec("save_look", "Save the look…", "Ctrl+S", "Save the look as one file", "Look", True),
    ActionSpec("export_palette", "Export the palette…", "Ctrl+E", "Write the colours as a palette file", "Look", True),
    ActionSpec("follow", "Follow the day…", "", "Follow the wallpaper and the time of day, without the window", "Look"),
    ActionSpec("report", "Save a report…", "", "Readability to show others, as a page or as PDF", "Look", True),
    ActionSpec("rename", "Name the look…", "F2", "Give the look a name", "Look", True),
    ActionSpec("quit", "Quit", "Ctrl+Q", "Close the window", "Look"),
    ActionSpec("undo", "Undo", "Ctrl+Z", "Undo the last step", "Edit"),
    ActionSpec("redo", "Redo", "Ctrl+Shift+Z", "Do the undone step again", "Edit"),
    ActionSpec("tone", "Dark or light", "Ctrl+T", "Switch between the look's dark and light half", "Edit", True),
    ActionSpec("lock", "Lock the role", "Ctrl+L", "Lock or free the selected role", "Edit", True),
    ActionSpec("mend_all", "Mend all", "Ctrl+M", "Make every failing pair readable", "Edit", True),
    ActionSpec("preferences", "Preferences…", "Ctrl+,", "Appearance, the need of new looks, what is asked", "Edit"),
    ActionSpec("steps", "Steps taken", "Ctrl+H", "See every step, compare any two, keep variants", "Edit", True),
    ActionSpec("dropper", "Eyedropper", "Ctrl+I", "Pick a colour off the picture", "View", True),
    ActionSpec(
        "screen_dropper", "Eyedropper for the screen", "Ctrl+Shift+I", "Pick a colour off any window", "View", True
    ),
    ActionSpec("curtain", "Curtain", "Ctrl+K", "Before on one side, after on the other", "View", True),
    ActionSpec(
        "appearance", "Light window", "Ctrl+Shift+L", "Show this window light or dark; the look does not change", "View"
    ),
    ActionSpec("find", "Find anything…", "Ctrl+F", "Find roles, components, schemes, looks and actions by name", "Go"),
    ActionSpec("step_gather", "Gather", "Ctrl+1", "Choose a picture and take its colours", "Go"),
    ActionSpec("step_tune", "Tune", "Ctrl+2", "Decide which colour goes where", "Go", True),
    ActionSpec("step_dress", "Dress", "Ctrl+3", "See what every component will get", "Go", True),
    ActionSpec("step_proof", "Proof", "Ctrl+4", "Find and mend what cannot be read", "Go", True),
    ActionSpec("step_wear", "Wear", "Ctrl+5", "Put the files in place, and get back", "Go", True),
    ActionSpec("shortcuts", "Keyboard shortcuts", "F1", "List every shortcut", "Help"),
    ActionSpec("about", "About Mellow Finch", "", "Version and licences", "Help"),
)
