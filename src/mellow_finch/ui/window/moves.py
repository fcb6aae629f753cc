"""What the actions of the window do, each a function of the window as its parts see it."""

from __future__ import annotations

from typing import cast

from ...language import tr
from .shell import Shell


def switch_tone(shell: Shell) -> None:
    """Go to the look's other half."""
    from ...look.edits import with_tone
    from ...palette.recipe import opposite

    document = shell.bench.document
    if document.look is not None:
        other = opposite(document.look.tone)
        document.edit(
            tr("Switch to dark") if other == "dark" else tr("Switch to light"), lambda now: with_tone(now, other)
        )


def switch_lock(shell: Shell) -> None:
    """Lock or free the selected role."""
    from ...look.edits import with_lock

    document = shell.bench.document
    role = document.role
    document.edit(tr("Lock or unlock a role"), lambda look: with_lock(look, role, role not in look.locks))


def mend_all(shell: Shell) -> None:
    """Mend every failing pair."""
    from .steps.proof import ProofStep

    shell.show_step("proof")
    panel = cast(ProofStep, shell.step_by_id["proof"]).panel
    panel.show_page("pairs")
    panel.pairs.mend_all()


def try_programs(shell: Shell) -> None:
    """Try real programs with the look."""
    from .steps.proof import ProofStep

    shell.show_step("proof")
    panel = cast(ProofStep, shell.step_by_id["proof"]).panel
    panel.show_page("programs")
    panel.programs.start()


def next_picture(shell: Shell) -> None:
    """Show the next of the look's wallpapers behind the preview."""
    shell.bench.opening.turn_page()


def take_dropper(shell: Shell) -> None:
    """Take the eyedropper for the picture in hand."""
    from .steps.gather import GatherStep

    shell.show_step("gather")
    panel = cast(GatherStep, shell.step_by_id["gather"]).panel
    panel.show_page("picture")
    shell.show_views(shell.picture, panel)
    panel.picture.dropper_button.toggle()


def switch_curtain(shell: Shell) -> None:
    """Draw the curtain across the stage, or back."""
    if shell.step == "gather":
        shell.show_step("tune")
    stage, document = shell.bench.stage, shell.bench.document
    drawn = stage.curtain is not None
    stage.set_curtain(None if drawn else 0.5)
    if drawn and document.beside != (None, None):
        document.set_beside(None, None)


def change_role(shell: Shell, role: str) -> None:
    """Go and change a role in Tune."""
    from .steps.tune import TuneStep

    document = shell.bench.document
    shell.show_step("tune")
    cast(TuneStep, shell.step_by_id["tune"]).panel.show_page("role")
    document.select(role, document.component, document.part)


def show_component(shell: Shell, component: str, view: str = "") -> None:
    """Show a component in Dress, or a view of it."""
    from .steps.dress import DressStep

    cast(DressStep, shell.step_by_id["dress"]).show_component(component, view)


def use_theme(shell: Shell) -> None:
    """Let the person choose a theme that the look is to wear."""
    from .steps.dress import DressStep

    cast(DressStep, shell.step_by_id["dress"]).desk.list_here(shell.bench.dialogs.theme_file)


def start_from_theme(shell: Shell) -> None:
    """Let the person choose a theme whose colours a look starts with."""
    from .steps.dress import DressStep

    desk = cast(DressStep, shell.step_by_id["dress"]).desk
    desk.list_here(shell.bench.dialogs.theme, shell.bench.opening.open_theme)


def choose_preferences(shell: Shell, setting: str = "") -> None:
    """Let the person choose of the program itself; setting: the one to begin with."""
    from .preferences import Preferences

    if shell.memory is not None:
        dialog = Preferences(shell.memory, shell.widget)
        dialog.chosen.connect(lambda *_: shell.apply_settings())
        dialog.open()
        if setting:
            dialog.boxes[setting].setFocus()


def usual_size(shell: Shell) -> None:
    """Go back to the usual size of text and controls."""
    from .settings import PREFERENCE_BY_NAME

    if shell.memory is not None:
        shell.memory.choose(PREFERENCE_BY_NAME["size"], 1.0)
        shell.say(tr("Text and controls have their default size from the next start."))


def show_guide(shell: Shell, page: str = "") -> None:
    """Show the guide at a page, that of what is in sight where none is named."""
    from ..help.guide import Guide

    guide = shell.widget.findChild(Guide) or Guide(shell.appearance, shell.widget)
    on_shelf = shell.in_sight() == "shelf"
    here = "shelf" if on_shelf else shell.step if shell.bench.document.look is not None else "start"
    guide.show_page(page or here)
