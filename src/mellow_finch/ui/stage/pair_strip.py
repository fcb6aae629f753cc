"""The pair at hand, under the stage: what is pointed at or was clicked, text on surface, and what can be done."""

from __future__ import annotations

from PyQt6.QtCore import QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QFont, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QHBoxLayout, QPushButton, QSizePolicy, QVBoxLayout, QWidget

from ...components.catalogue import COMPONENT_BY_ID
from ...components.judge import Behind, judge_part
from ...language import as_ratio, comma_separated, isolated, named, stacked, states, titled, tr
from ...palette.roles import ROLE_BY_ID
from ...proof.place import SourcePlace, find_source
from ...proof.proof import Finding, mend
from ..kit.jobs import JobProgress, Jobs
from ..kit.parts import ElidedLabel, label, set_kind
from ..kit.style import FAMILY, Style, qcolor
from ..model.document import Document

HIGH = 80
_SAMPLE = "Bearded reedling 27"


class _Sample(QWidget):
    """A pair at reading size: text on its surface, or an edge around it."""

    def __init__(self, style: Style) -> None:
        super().__init__()
        self._style = style
        self.finding: Finding | None = None
        self.setSizePolicy(QSizePolicy.Policy.Fixed, QSizePolicy.Policy.Expanding)
        self.setAccessibleName(tr("The pair as it is drawn"))

    def sizeHint(self) -> QSize:
        """Return a fixed width."""
        return QSize(178, 56)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        """Paint the pair."""
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        box = QRectF(self.rect()).adjusted(0.5, 0.5, -0.5, -0.5)
        p.setPen(QPen(self._style.c("edge"), 1))
        finding = self.finding
        p.setBrush(qcolor(finding.surface) if finding is not None else self._style.c("sunken"))
        p.drawRoundedRect(box, 6, 6)
        if finding is None:
            return
        p.setPen(QPen(qcolor(finding.text), 2))
        if finding.what == "edge":
            p.setBrush(Qt.BrushStyle.NoBrush)
            p.drawRoundedRect(box.adjusted(34, 14, -34, -14), 5, 5)
            return
        font = QFont(FAMILY)
        font.setPixelSize(15)
        p.setFont(font)
        p.drawText(box, Qt.AlignmentFlag.AlignCenter, _SAMPLE)


class PairStrip(QWidget):
    """Shows one pair; changes go through the document."""

    change_asked = pyqtSignal(str)  # a role
    file_asked = pyqtSignal(str)  # a component

    def __init__(self, document: Document, style: Style, jobs: Jobs, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._document, self._jobs = document, jobs
        self._chosen: tuple[str, str, str] = ("", "", "")  # component, part, what
        self._pointed: tuple[str, str, str] | None = None
        self.finding: Finding | None = None
        self.role = ""
        self.setObjectName("strip")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self.setFixedHeight(HIGH)
        self.setAccessibleName(tr("Selected pair"))
        row = QHBoxLayout(self)
        row.setContentsMargins(10, 8, 10, 8)
        row.setSpacing(12)
        self.sample = _Sample(style)
        row.addWidget(self.sample)
        words = QVBoxLayout()
        words.setSpacing(1)
        self.title, self.roles, self.place = ElidedLabel(), ElidedLabel(), ElidedLabel()
        self.title.setProperty("kind", "section")
        self.place.setProperty("kind", "quiet")
        for one in (self.title, self.roles, self.place):
            one.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Preferred)
            words.addWidget(one)
        row.addLayout(words, 1)
        self.ratio = label("", "section", wrap=False)
        self.ratio.setAlignment(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)
        row.addWidget(self.ratio)
        self.mend = self._button(tr("Fix"), tr("The smallest change of colour that gives it enough contrast"))
        self.change = self._button(tr("Change"), tr("Change this role's colour in Tune"))
        self.lock = self._button(tr("Lock"), tr("Keep this role's colour when other colours change"))
        self.file = self._button(tr("In the file"), tr("Show what changes in this component's files"))
        self.mend.clicked.connect(self._mend)
        self.change.clicked.connect(lambda: self.change_asked.emit(self.role))
        self.lock.clicked.connect(self._lock)
        self.file.clicked.connect(lambda: self.file_asked.emit(self._shown()[0]))
        for button in (self.mend, self.change, self.lock, self.file):
            row.addWidget(button)
        document.selected.connect(self._selected)
        document.changed.connect(lambda *_: self.refresh())
        self.refresh()

    def _button(self, words: str, tip: str) -> QPushButton:
        made = QPushButton(words)
        made.setToolTip(tip)
        made.setAccessibleName(titled(words, tip))
        return made

    def point(self, component: str, part: str, what: str) -> None:
        """Show what is under the pointer, or, with empty words, what was chosen again."""
        self._pointed = (component, part, what) if component else None
        self.refresh()

    def _selected(self, _role: str, component: str, part: str) -> None:
        if component:
            self._chosen = (component, part, "text")
            self.refresh()

    def _shown(self) -> tuple[str, str, str]:
        return self._pointed or self._chosen

    def refresh(self) -> None:
        """Bring what is shown up to date; where it stands in its file follows when it has been found."""
        component, key, what = self._shown()
        look, document = self._document.look, self._document
        known = COMPONENT_BY_ID.get(component)
        part = known.by_key.get(key) if known is not None else None
        if look is None or known is None or part is None:
            self._say_nothing(look is None)
            return
        paint = document.right_paints.get(component, {}).get(key)
        pairs = judge_part(part, paint, Behind.of(look.scheme())) if paint is not None else []
        pair = next((p for p in pairs if p.what == what), pairs[0] if pairs else None)
        self.finding = (
            Finding(look.tone, component, part, pair.what, pair.text, pair.surface, pair.ratio, pair.need)
            if pair is not None
            else None
        )
        names = [r for r in (part.text_role, part.fill_role) if r in ROLE_BY_ID]
        first = document.role if self._pointed is None else part.fill_role if what == "fill" else part.text_role
        self.role = first if first in names else names[0] if names else ""
        self.sample.finding = self.finding
        self.sample.update()
        self.title.setText(titled(known.title, comma_separated(filter(None, (named(part.id), states(part.state))))))
        self.roles.setText(stacked(list(dict.fromkeys(ROLE_BY_ID[r].title for r in names))) or tr("Its own colours"))
        if self.finding is not None:
            mark = "✓" if self.finding.passes else "✗"
            self.ratio.setText(
                tr("{ratio} {mark}\nneeds {need:g}").format(
                    ratio=as_ratio(self.finding.ratio), mark=mark, need=self.finding.need.level
                )
            )
            set_kind(self.ratio, "section" if self.finding.passes else "bad")
        else:
            self.ratio.setText("")
        files = document.dressed.files.get(component, ()) if document.dressed else ()
        if document.themed[1].get(component):  # what is drawn comes from the theme in sight, not from the look's files
            files = ()
            self.place.setText(tr("In the imported theme, recoloured"))
        elif files:
            self._say_place(_short(files[0].path), SourcePlace(files[0].path))
        else:
            self.place.setText(tr("Not included, or its file does not set this"))
        self.mend.setVisible(self.finding is not None and not self.finding.passes)
        for button in (self.change, self.lock):
            button.setVisible(bool(self.role))
        self.file.setVisible(bool(files))
        self.lock.setText(tr("Unlock") if self.role in look.locks else tr("Lock"))
        if self._pointed is None and files and not document.dragging:
            self._find_place()

    def _say_nothing(self, bare: bool) -> None:
        self.finding, self.role = None, ""
        self.sample.finding = None
        self.sample.update()
        self.title.setText("" if bare else tr("Point at anything in the preview"))
        self.roles.setText("" if bare else tr("Its text, surface, contrast ratio and file are shown here."))
        self.place.setText("" if bare else tr("Click to keep it here; zoom with Ctrl+wheel."))
        self.ratio.setText("")
        for button in (self.mend, self.change, self.lock, self.file):
            button.hide()

    def _find_place(self) -> None:
        component, key, what = self._chosen
        dressed = self._document.dressed
        if dressed is None:
            return
        part = COMPONENT_BY_ID[component].by_key[key]

        def work(_progress: JobProgress) -> SourcePlace | None:
            return find_source(dressed, component, part, what)

        def done(place: SourcePlace | None) -> None:
            if place is not None and place.line and self._shown() == (component, key, what):
                self._say_place(tr("{file}, line {line}").format(file=_short(place.path), line=place.line), place)

        self._jobs.start("place", work, done, lambda _: None)

    def _say_place(self, words: str, place: SourcePlace) -> None:
        self.place.setText("  ·  ".join(filter(None, (words, isolated(place.words)))))
        where = isolated(f"~/{place.path}")
        if place.line:
            where = tr("{file}, line {line}").format(file=where, line=place.line)
        self.place.setToolTip("\n".join(filter(None, (where, place.words))))

    def _lock(self) -> None:
        from ...look.edits import with_lock

        role = self.role
        words = tr("Lock or unlock {title}").format(title=ROLE_BY_ID[role].title)
        self._document.edit(words, lambda look: with_lock(look, role, role not in look.locks))

    def _mend(self) -> None:
        finding = self.finding
        if finding is not None:
            self._document.edit(tr("Fix {words}").format(words=finding.words), lambda look: mend(look, [finding]))


def _short(path: str) -> str:
    """Return the end of a path, which tells files of one name apart."""
    return "/".join(path.split("/")[-2:])
