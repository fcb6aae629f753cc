"""The stage in the window: what it shows, how it is looked at, what is pointed at, and states beside each other."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6 import sip
from PyQt6.QtCore import QObject, QRectF, QSize, pyqtSignal
from PyQt6.QtGui import QImage

from ...colour.rgb import parse_hex
from ...colour.vision import Vision
from ...components.catalogue import COMPONENT_BY_ID
from ...components.decisions import Owner
from ...components.write.emblems import made_among
from ...language import named, stacked, tr
from ...look.behind import choice_behind
from ...look.decision_edits import with_choice
from ...look.edits import with_role_by_hand
from ...look.model import Look
from ...palette.roles import ROLE_BY_ID
from ..kit.jobs import JobProgress, Jobs
from ..kit.style import Style
from ..model.document import Document
from ..model.gathered import Gathered
from .brush import Area
from .eyes import TITLES
from .following import Following
from .lay import PaintsOf, ViewOptions, small_desktop
from .scene import TERMINAL, Shape, drawn_of, owners, shaped
from .telling import area_words
from .view import Stage

_NEARLY = 1.1  # ratio by need, under which a pair is marked
_MOST_NEARLY = 12  # marks of pairs that pass, the closest to their need; more would hide what they are about
SMALL = QSize(112, 70)  # of a state among the steps taken
_CARD = SMALL * (300 / SMALL.width())  # of a look to choose


class Staging(QObject):
    """Keeps the stage showing what the document says."""

    said = pyqtSignal(str)
    picked = pyqtSignal()  # something on the stage was selected
    at_hand = pyqtSignal(str, str, str)  # component, part and what is under the pointer, empty for nothing

    def __init__(
        self, document: Document, style: Style, jobs: Jobs, picture_of: Callable[[Look], Gathered | None]
    ) -> None:
        super().__init__()
        self._document, self._style, self._jobs, self._picture_of = document, style, jobs, picture_of
        self.stage = Stage(style)
        self.near_terminal = False
        self.printed = "session"  # what stands in the terminal
        self.shape = Shape()  # of the desktop that runs
        self._vision: Vision = "normal"
        self._flat = False
        self._sharp = False  # whether nothing blurs on the desktop that runs
        self._shows = False  # whether the stage shows the look's own desktop already
        self._following = Following(self._put)
        self.stage.picked.connect(self._picked)
        self.stage.pointed.connect(self._pointed)
        self.stage.given.connect(self._given)
        document.selected.connect(self._role_selected)

    def seen(self, look: Look) -> ViewOptions:
        """Return how a look's desktop is looked at."""
        shown = self._picture_of(look)
        size = (shown.width, shown.height) if shown is not None else (0, 0)
        shape = shaped(self.shape, look)._replace(emblems=self._emblems(look), printed=self.printed)
        blur = look.blur and not self._sharp
        return ViewOptions(look.placement, blur, self._flat, size, self._document.in_view, shape)

    def _emblems(self, look: Look) -> tuple[tuple[str, bytes], ...]:
        """Return the pictures that components show by the look's wish, the first of each, as they are written."""
        dressed = self._document.dressed
        owners = [owner.name for owner, own in look.decisions.items() if own.emblems]
        if not owners or dressed is None or dressed.look.decisions != look.decisions:
            return ()
        made = ((owner, made_among(dressed.files.get(owner, ()))) for owner in owners)
        return tuple((owner, next(iter(files.values()))) for owner, files in made if files)

    def show(self) -> None:
        """Show what the document's files say, or the states that are compared."""
        look = self._document.look
        if look is None:
            return
        left, right = self._document.beside
        self.stage.before_words = left.words if left is not None else tr("Before")
        self.stage.after_words = right.words if right is not None else tr("Now") if left is not None else tr("After")
        self._note()
        self.stage.set_seen(self.seen(look))
        self.stage.set_close(QRectF(*TERMINAL) if self.near_terminal else None)
        document = self._document
        plain = document.beside == (None, None) and not document.themed[1]
        if plain and self._shows and (document.dragging or document.in_view):
            shown = document.in_view
            self._following.follow(document.right_paints, owners(shown, self.shape), shown or document.component)
        else:
            self._shows = plain
            self._following.at_once(document.right_paints)

    @property
    def behind(self) -> bool:
        """Tell whether something on the stage does not show yet what the files say."""
        return self._following.behind

    def mark_worst(self, on: bool) -> None:
        """Mark on the stage where pairs fail or are within a tenth of their need."""
        known = (self._document.findings_known or ()) if on else ()
        rows = [row for row in known if not row.file and row.shortfall < _NEARLY]
        worst: dict[tuple[str, str], bool] = {}
        on_stage = {(area.component, area.part) for area in self.stage.areas} if rows else set()
        for row in rows:
            key = (row.component, row.part.key)
            if key not in on_stage:
                continue
            if not row.passes or len(worst) < _MOST_NEARLY:
                worst[key] = worst.get(key, False) or not row.passes
        self.stage.set_worst(worst)

    def see_with(self, vision: str) -> None:
        """Show the desktop as other eyes see it."""
        self._vision = vision  # type: ignore[assignment]
        self.stage.set_vision(self._vision)
        self._note()

    def show_flat(self, flat: bool) -> None:
        """Show the desktop as where no compositor runs, or as where one does."""
        self._flat = flat
        self._note()
        self.show()

    def show_sharp(self, sharp: bool) -> None:
        """Show the desktop as where nothing blurs, or as where something may."""
        if sharp is not self._sharp:
            self._sharp = sharp
            self.show()

    def _put(self, paints: PaintsOf) -> None:
        if sip.isdeleted(self.stage):  # the window went away between two turns of catching up
            return
        self.stage.set_paints(paints, self._document.left_paints)

    def _note(self) -> None:
        words = [] if self._vision == "normal" else [tr("Simulated: {titles}").format(titles=TITLES[self._vision][0])]
        if self._flat:
            words.append(tr("No compositor"))
        dressed, shown = self._document.dressed, self._document.in_view
        if shown and dressed is not None and shown not in dressed.files:
            words.append(tr("Not included: shown as it would be"))
        self.stage.set_note("  ·  ".join(words))

    def picture(self) -> QImage | None:
        """Return the picture behind the desktop of the look."""
        look = self._document.look
        shown = self._picture_of(look) if look is not None else None
        return shown.image if shown is not None else None

    def desktop(self, look: Look, picture: QImage | None, paints: PaintsOf, width: int) -> QImage:
        """Return a look's desktop as a small image of a width."""
        size = SMALL * (width / SMALL.width())
        return small_desktop(size, picture, paints, self._style.c("pressed"), self.seen(look))

    def painter(self, look: Look) -> Callable[[PaintsOf], QImage]:
        """Return what draws other looks of the same picture on the same desktop as small images; any thread may."""
        seen, picture, plain = self.seen(look), self._picture_of(look), self._style.c("pressed")
        image = picture.image if picture is not None else None
        return lambda paints: small_desktop(_CARD, image, paints, plain, seen)

    def make_small(self, look: Look, give: Callable[[Look, QImage], None]) -> None:
        """Draw a look's small desktop and give it, the files worked out off the window's thread."""
        shown = self._picture_of(look)

        def work(_progress: JobProgress) -> PaintsOf:
            return drawn_of(
                self._document.dress(look).paints, self._document.in_view, self.shape
            )  # read here, not when it is painted

        def done(paints: PaintsOf) -> None:
            give(look, self.desktop(look, shown.image if shown else None, paints, SMALL.width() * 2))

        self._jobs.start(f"small {id(look)}", work, done, lambda e: self.said.emit(str(e)))

    def _picked(self, area: Area) -> None:
        part = COMPONENT_BY_ID[area.component].by_key.get(area.part)
        role = (part.text_role if area.what == "text" else part.fill_role) if part else ""
        look = self._document.look
        self._document.select(role if look is not None and role in look.colours else "", area.component, area.part)
        self.picked.emit()

    def _given(self, area: Area, choice: str) -> None:
        """Let a part be drawn with another role, or a colour in hex, by the group or role behind it in its component.

        Where a component draws straight from the look, the part's own role takes the colour.
        """
        document, component = self._document, COMPONENT_BY_ID[area.component]
        look = document.look
        if look is None:
            return
        title = ROLE_BY_ID[choice].title if choice in ROLE_BY_ID else choice
        before = document.before.get(component.id, {})
        part = component.by_key[area.part]
        slot = choice_behind(look, component, part, area.what, document.files, before)
        own = part.text_role if area.what == "text" else part.fill_role
        if slot is not None:
            document.select(choice, component.id, area.part)
            document.edit(
                stacked([title, named(part.id)]),
                lambda look: with_choice(look, Owner.component(component.id), [slot], choice),
            )
        elif own in look.colours:
            document.select(own, component.id, area.part)
            words = tr("{role} takes the colour of {other}").format(role=ROLE_BY_ID[own].title, other=title)
            colour = look.colours[choice] if choice in look.colours else parse_hex(choice)
            document.edit(words, lambda look: with_role_by_hand(look, own, colour))
        else:
            document.trouble.emit(
                tr("{component} has no separate colour there that could become {role}.").format(
                    component=component.title, role=title
                )
            )

    def _pointed(self, area: Area | None) -> None:
        self.at_hand.emit(*((area.component, area.part, area.what) if area is not None else ("", "", "")))
        if area is not None:
            document = self._document
            paints = document.left_paints if self.stage.showing_before else document.right_paints
            words = area_words(area, document, paints)
            self.stage.setAccessibleDescription(words)
            self.said.emit(words)

    def _role_selected(self, role: str, component: str, part: str) -> None:
        if not part:
            component, part = next(
                (
                    (c.id, p.key)
                    for c in COMPONENT_BY_ID.values()
                    for p in c.parts
                    if role in (p.text_role, p.fill_role) and self.stage.point_of(c.id, p.key) is not None
                ),
                ("", ""),
            )
        self.stage.mark(component, part)
