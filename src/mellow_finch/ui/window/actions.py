"""Every action of the window, one row each: menus, tooltips, the shortcut list, the finder and the tests read them."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from functools import partial

from PyQt6.QtGui import QAction, QKeySequence
from PyQt6.QtWidgets import QWidget

from ...language import keys, tr, with_note
from . import moves
from .shell import Shell
from .steps.rows import STEPS


@dataclass(frozen=True, slots=True, kw_only=True)
class Action:
    """One action. tip: a plain line about it; run: what it does; icon: its button's in the header, if it has one.

    needs_look: whether it can be used only where there is a look; also: further words by which it is found.
    """

    id: str
    title: str
    tip: str
    run: Callable[[Shell], object]
    shortcut: str = ""
    menu: str = ""
    icon: str = ""
    needs_look: bool = False
    also: str = ""


_LOOK, _EDIT, _VIEW, _GO, _HELP = tr("Look"), tr("Edit"), tr("View"), tr("Go"), tr("Help")
MENUS = (_LOOK, _EDIT, _VIEW, _GO, _HELP)
OWN_MENU = _LOOK  # stands behind the look's name; the others are in one menu


def _step_actions() -> tuple[Action, ...]:
    return tuple(
        Action(
            id=f"step_{row.id}",
            title=row.title,
            tip=row.tip,
            shortcut=f"Ctrl+{number}",
            menu=_GO,
            needs_look=number > 1,
            run=partial(lambda name, shell: shell.show_step(name), row.id),
        )
        for number, row in enumerate(STEPS, 1)
    )


ACTIONS: tuple[Action, ...] = (
    Action(
        id="open_picture",
        title=tr("Open images…"),
        shortcut="Ctrl+O",
        tip=tr("Choose images to extract colours from"),
        menu=_LOOK,
        run=lambda shell: shell.bench.dialogs.pictures(),
        also=tr("wallpaper, image, photo, background"),
    ),
    Action(
        id="import_palette",
        title=tr("Import a palette…"),
        shortcut="Ctrl+Shift+P",
        tip=tr("Use the colours of a palette file"),
        menu=_LOOK,
        run=lambda shell: shell.bench.dialogs.palette(),
        also=tr("swatches, colours, scheme, file"),
    ),
    Action(
        id="open_theme",
        title=tr("Start from a theme…"),
        tip=tr("Use a theme's colours in their roles"),
        menu=_LOOK,
        run=moves.start_from_theme,
        also=tr("folder, archive, GTK, colours of a theme"),
    ),
    Action(
        id="use_theme",
        title=tr("Use a theme…"),
        tip=tr("Use a theme in the look's colours, or as it is with some colours replaced"),
        menu=_LOOK,
        needs_look=True,
        run=moves.use_theme,
        also=tr("use this theme, replace a colour, swap, recolour, archive, folder, icons, cursor, pointer"),
    ),
    Action(
        id="open_look",
        title=tr("Open a look…"),
        shortcut="Ctrl+Shift+O",
        tip=tr("Open a saved look file"),
        menu=_LOOK,
        run=lambda shell: shell.bench.dialogs.look(),
        also=tr("load, file"),
    ),
    Action(
        id="shelf",
        title=tr("The Shelf"),
        shortcut="Ctrl+B",
        tip=tr("See the saved looks"),
        menu=_LOOK,
        run=lambda shell: shell.shelving.show(),
        also=tr("library, collection, saved looks, presets"),
    ),
    Action(
        id="keep",
        title=tr("Save to the Shelf"),
        shortcut="Ctrl+Shift+S",
        tip=tr("Save the look to the Shelf with a copy of its images"),
        menu=_LOOK,
        needs_look=True,
        run=lambda shell: shell.shelving.keep(),
        also=tr("save, store"),
    ),
    Action(
        id="save_look",
        title=tr("Save the look…"),
        shortcut="Ctrl+S",
        tip=tr("Save the look as one file"),
        menu=_LOOK,
        needs_look=True,
        run=lambda shell: shell.bench.dialogs.save(),
    ),
    Action(
        id="export_palette",
        title=tr("Export the palette…"),
        shortcut="Ctrl+E",
        tip=tr("Export the colours as a palette file"),
        menu=_LOOK,
        needs_look=True,
        run=lambda shell: shell.bench.dialogs.export(),
        also=tr("swatches, colours, GIMP, CSS"),
    ),
    Action(
        id="follow",
        title=tr("Follow the wallpaper and time…"),
        tip=tr("Follow the wallpaper and the time of day, without the window"),
        menu=_LOOK,
        run=lambda shell: shell.shelving.follow(),
        also=tr("automatic, day and night, schedule, sunset"),
    ),
    Action(
        id="report",
        title=tr("Save a report…"),
        tip=tr("A contrast report to share, as a page or PDF"),
        menu=_LOOK,
        needs_look=True,
        run=lambda shell: shell.shelving.ask_report(),
        also=tr("contrast, accessibility, WCAG"),
    ),
    Action(
        id="rename",
        title=tr("Name the look…"),
        shortcut="F2",
        tip=tr("Give the look a name"),
        menu=_LOOK,
        needs_look=True,
        run=lambda shell: shell.bench.dialogs.name(),
    ),
    Action(
        id="quit",
        title=tr("Quit"),
        shortcut="Ctrl+Q",
        tip=tr("Close the window"),
        menu=_LOOK,
        run=lambda shell: shell.close(),
    ),
    Action(
        id="undo",
        title=tr("Undo"),
        shortcut="Ctrl+Z",
        tip=tr("Undo the last step"),
        menu=_EDIT,
        icon="undo",
        run=lambda shell: shell.bench.document.stack.undo(),
    ),
    Action(
        id="redo",
        title=tr("Redo"),
        shortcut="Ctrl+Shift+Z",
        tip=tr("Redo the step that was undone"),
        menu=_EDIT,
        icon="redo",
        run=lambda shell: shell.bench.document.stack.redo(),
    ),
    Action(
        id="copy_colour",
        title=tr("Copy the colour"),
        shortcut="Ctrl+C",
        tip=tr("Copy the colour of the selected role as hex"),
        menu=_EDIT,
        needs_look=True,
        run=lambda shell: shell.bench.role_menu.copy(),
        also=tr("clipboard, hex"),
    ),
    Action(
        id="paste_colour",
        title=tr("Paste a colour"),
        shortcut="Ctrl+V",
        tip=tr("Give the selected role the colour on the clipboard"),
        menu=_EDIT,
        needs_look=True,
        run=lambda shell: shell.bench.role_menu.paste(),
        also=tr("clipboard, hex"),
    ),
    Action(
        id="copy_palette",
        title=tr("Copy the whole palette"),
        tip=tr("All colours of the look as a list of hex colours with their names"),
        menu=_EDIT,
        needs_look=True,
        run=lambda shell: shell.bench.role_menu.copy_palette(),
        also=tr("clipboard, hex, list, export"),
    ),
    Action(
        id="tone",
        title=tr("Dark or light"),
        shortcut="Ctrl+T",
        tip=tr("Switch between the look's dark and light variant"),
        menu=_EDIT,
        needs_look=True,
        run=moves.switch_tone,
        also=tr("dark mode, night"),
    ),
    Action(
        id="lock",
        title=tr("Lock the role"),
        shortcut="Ctrl+L",
        tip=tr("Lock or unlock the selected role"),
        menu=_EDIT,
        needs_look=True,
        run=moves.switch_lock,
    ),
    Action(
        id="mend_all",
        title=tr("Fix all"),
        shortcut="Ctrl+M",
        tip=tr("Give every pair enough contrast"),
        menu=_EDIT,
        needs_look=True,
        run=moves.mend_all,
        also=tr("repair, contrast, unreadable"),
    ),
    Action(
        id="try_programs",
        title=tr("Try my programs"),
        tip=tr("Start real programs with the look in a hidden session and measure their text"),
        menu=_EDIT,
        needs_look=True,
        run=moves.try_programs,
        also=tr("rehearsal, preview, screenshot, test, contrast"),
    ),
    Action(
        id="preferences",
        title=tr("Preferences…"),
        shortcut="Ctrl+,",
        tip=tr("Appearance, contrast of new looks, confirmations"),
        menu=_EDIT,
        run=moves.choose_preferences,
        also=tr("settings, options"),
    ),
    Action(
        id="steps",
        title=tr("History"),
        shortcut="Ctrl+H",
        tip=tr("See every step, compare any two, save variants"),
        menu=_EDIT,
        icon="steps",
        needs_look=True,
        run=lambda shell: shell.switch_steps(),
        also=tr("steps, versions"),
    ),
    Action(
        id="dropper",
        title=tr("Eyedropper"),
        shortcut="Ctrl+I",
        tip=tr("Pick a colour from the image"),
        menu=_VIEW,
        needs_look=True,
        run=moves.take_dropper,
        also=tr("colour picker, pipette"),
    ),
    Action(
        id="screen_dropper",
        title=tr("Screen eyedropper"),
        shortcut="Ctrl+Shift+I",
        tip=tr("Pick a colour from any window"),
        menu=_VIEW,
        needs_look=True,
        run=lambda shell: shell.bench.picking.pick(),
        also=tr("colour picker, pipette"),
    ),
    Action(
        id="curtain",
        title=tr("Split view"),
        shortcut="Ctrl+K",
        tip=tr("Before on one side, after on the other"),
        menu=_VIEW,
        icon="compare",
        needs_look=True,
        run=moves.switch_curtain,
        also=tr("compare, before and after, curtain"),
    ),
    Action(
        id="next_picture",
        title=tr("Next wallpaper in the preview"),
        shortcut="Ctrl+Shift+W",
        tip=tr("Preview another image of a look whose images change or differ by monitor"),
        menu=_VIEW,
        needs_look=True,
        run=moves.next_picture,
        also=tr("slideshow, monitor, background"),
    ),
    Action(
        id="appearance",
        title=tr("Light window"),
        shortcut="Ctrl+Shift+L",
        tip=tr("Show this window light or dark; the look does not change"),
        menu=_VIEW,
        run=lambda shell: shell.switch_appearance(),
    ),
    Action(
        id="usual_size",
        title=tr("Default text size"),
        shortcut="Ctrl+0",
        tip=tr("Show text and controls at their default size from the next start"),
        menu=_VIEW,
        run=moves.usual_size,
        also=tr("zoom, scale, larger, smaller"),
    ),
    Action(
        id="find",
        title=tr("Find anything…"),
        shortcut="Ctrl+F",
        tip=tr("Find roles, components, schemes, looks and actions by name"),
        menu=_GO,
        icon="find",
        run=lambda shell: shell.find_anything(),
    ),
    *_step_actions(),
    Action(
        id="guide",
        title=tr("Guide"),
        shortcut="F1",
        tip=tr("Read about the current step"),
        menu=_HELP,
        run=moves.show_guide,
        also=tr("help, manual"),
    ),
    Action(
        id="tour",
        title=tr("Take the tour"),
        tip=tr("Five steps on a demo home folder; your own files are not changed"),
        menu=_HELP,
        run=lambda shell: shell.begin_tour(),
        also=tr("introduction, tutorial, first steps"),
    ),
    Action(
        id="whats_this",
        title=tr("What is this?"),
        shortcut="Shift+F1",
        tip=tr("Then click a control to read what it does"),
        menu=_HELP,
        run=lambda shell: shell.ask_what_this_is(),
    ),
    Action(
        id="shortcuts",
        title=tr("Keyboard shortcuts"),
        shortcut="Ctrl+F1",
        tip=tr("List every shortcut"),
        menu=_HELP,
        run=lambda shell: shell.bench.dialogs.tell_shortcuts(
            [(keys(a.shortcut), a.title) for a in ACTIONS if a.shortcut]
        ),
    ),
    Action(
        id="fault_report",
        title=tr("Save a fault report…"),
        tip=tr("What runs here and which errors occurred, as text without private paths"),
        menu=_HELP,
        run=lambda shell: shell.bench.dialogs.fault_report(),
        also=tr("bug, log, problem"),
    ),
    Action(
        id="take_off",
        title=tr("Undo the applied look"),
        tip=tr("Show how to restore the state before the look"),
        menu=_GO,
        run=lambda shell: shell.show_step("wear"),
        also=tr("restore, undo, revert, uninstall, go back, take off"),
    ),
    Action(
        id="about",
        title=tr("About Mellow Finch"),
        tip=tr("Version and licences"),
        menu=_HELP,
        run=lambda shell: shell.bench.dialogs.about(),
    ),
)


def made_actions(window: QWidget, run: Callable[[Callable[[Shell], object]], None]) -> dict[str, QAction]:
    """Return the actions of a window by id, those that need a look switched off; run: is given what one does."""
    out: dict[str, QAction] = {}
    for row in ACTIONS:
        action = QAction(row.title, window)
        if row.shortcut:
            action.setShortcut(QKeySequence(row.shortcut))
        action.setToolTip(with_note(row.tip, keys(row.shortcut)) if row.shortcut else row.tip)
        action.setStatusTip(row.tip)
        action.triggered.connect(lambda _=False, own=row.run: run(own))
        action.setEnabled(not row.needs_look and row.id not in ("undo", "redo"))
        window.addAction(action)
        out[row.id] = action
    return out
