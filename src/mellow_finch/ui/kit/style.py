"""The window's own appearance: nearly neutral, so that the desktop on the stage is the colourful thing in it."""

from __future__ import annotations

from collections.abc import Callable
from functools import lru_cache
from importlib.resources import files
from pathlib import Path
from typing import Any

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QColor, QFont, QFontDatabase, QIcon, QPainter, QPalette
from PyQt6.QtWidgets import QApplication, QLabel, QProxyStyle, QStyle, QStyleOption, QWidget

from ...colour.rgb import Rgba
from ...colour.single import colour_of
from ...language import right_to_left

FAMILY = "Atkinson Hyperlegible"
MONO = "Atkinson Hyperlegible Mono"
_HUE = 190.0

# Lightness and chroma of each of the window's own colours, light and dark. Chroma stays at or under 0.02.
_TOKENS: dict[str, tuple[tuple[float, float], tuple[float, float]]] = {
    "window": ((0.955, 0.004), (0.235, 0.006)),
    "raised": ((0.990, 0.002), (0.275, 0.007)),
    "sunken": ((0.920, 0.005), (0.195, 0.006)),
    "hover": ((0.905, 0.007), (0.325, 0.009)),
    "pressed": ((0.870, 0.009), (0.365, 0.010)),
    "text": ((0.240, 0.008), (0.930, 0.004)),
    "quiet": ((0.450, 0.010), (0.745, 0.008)),
    "disabled": ((0.560, 0.006), (0.620, 0.006)),
    "line": ((0.850, 0.006), (0.360, 0.008)),
    "edge": ((0.600, 0.010), (0.590, 0.010)),
}
_ACCENT = {"light": (0.470, 0.075), "dark": (0.780, 0.080)}
_BAD = {"light": (0.500, 0.160, 28.0), "dark": (0.760, 0.130, 28.0)}
_GOOD = {"light": (0.480, 0.100, 155.0), "dark": (0.780, 0.110, 155.0)}


# The same for high contrast: nothing quiet, every edge as strong as text.
_STRONG: dict[str, tuple[float, float]] = {
    "window": (1.0, 0.0),
    "raised": (1.0, 0.12),
    "sunken": (1.0, 0.0),
    "hover": (0.90, 0.30),
    "pressed": (0.85, 0.36),
    "text": (0.0, 1.0),
    "quiet": (0.15, 0.96),
    "disabled": (0.48, 0.72),
    "line": (0.30, 0.80),
    "edge": (0.10, 0.95),
}


def tokens(dark: bool, strong: bool = False) -> dict[str, Rgba]:
    """Return the window's own colours by name; strong: those of the appearance with high contrast."""
    out = {name: colour_of(*pair[1 if dark else 0], _HUE) for name, pair in _TOKENS.items()}
    tone = "dark" if dark else "light"
    out["accent"] = colour_of(*_ACCENT[tone], 185.0)
    out["on_accent"] = colour_of(0.20 if dark else 0.985, 0.004, _HUE)
    out["bad"] = colour_of(*_BAD[tone])
    out["good"] = colour_of(*_GOOD[tone])
    if strong:
        out |= {name: colour_of(pair[1 if dark else 0], 0.0, _HUE) for name, pair in _STRONG.items()}
        out["accent"] = colour_of(0.88 if dark else 0.34, 0.08, 185.0)
        out["on_accent"] = colour_of(0.0 if dark else 1.0, 0.0, _HUE)
        out["bad"] = colour_of(0.85 if dark else 0.38, 0.13, 28.0)
        out["good"] = colour_of(0.88 if dark else 0.36, 0.10, 155.0)
    return out


# What is drawn on what in the window itself, with its need: proved by the same code as everybody's.
OWN_PAIRS: tuple[tuple[str, str, float], ...] = (
    *((t, s, 4.5) for t in ("text", "quiet") for s in ("window", "raised", "sunken", "hover")),
    ("text", "pressed", 4.5),
    ("on_accent", "accent", 4.5),
    ("disabled", "window", 2.5),
    ("disabled", "raised", 2.5),
    *((t, s, 4.5) for t in ("bad", "good", "accent") for s in ("window", "raised")),
    *(("edge", s, 3.0) for s in ("window", "raised", "sunken")),
    *(("accent", s, 3.0) for s in ("sunken", "hover")),
)


@lru_cache(maxsize=4096)
def qcolor(colour: Rgba) -> QColor:
    """Return a colour as Qt has it."""
    return QColor(colour.r, colour.g, colour.b, round(colour.a * 255))


def load_fonts() -> None:
    """Make the fonts that ship with the program known."""
    folder = files("mellow_finch.ui.kit").joinpath("fonts")
    for item in folder.iterdir():
        if item.name.endswith(".ttf"):
            QFontDatabase.addApplicationFontFromData(item.read_bytes())


_ARROWS = frozenset(
    {
        QStyle.StandardPixmap.SP_ArrowBack,
        QStyle.StandardPixmap.SP_ArrowForward,
        QStyle.StandardPixmap.SP_FileDialogToParent,
    }
)


class PlainTips(QProxyStyle):
    """Shows tips as the plain text they are: names in them come from files, and are no markup.

    The arrows of the toolkit's own file dialog, which are black, get the colour of texts.
    """

    def standardIcon(
        self, icon: QStyle.StandardPixmap, option: QStyleOption | None = None, widget: QWidget | None = None
    ) -> QIcon:
        """Return an icon of the toolkit's own dialogs."""
        usual = super().standardIcon(icon, option, widget)
        if icon not in _ARROWS:
            return usual
        palette, made = QApplication.palette(), QIcon()
        for mode, group in (
            (QIcon.Mode.Normal, QPalette.ColorGroup.Active),
            (QIcon.Mode.Disabled, QPalette.ColorGroup.Disabled),
        ):
            pixmap = usual.pixmap(32, 32)
            painter = QPainter(pixmap)
            painter.setCompositionMode(QPainter.CompositionMode.CompositionMode_SourceIn)
            painter.fillRect(pixmap.rect(), palette.color(group, QPalette.ColorRole.ButtonText))
            painter.end()
            made.addPixmap(pixmap, mode)
        return made

    def polish(self, widget: Any) -> Any:
        """Make a tip's label a plain one when it is made."""
        if isinstance(widget, QLabel) and widget.inherits("QTipLabel"):
            widget.setTextFormat(Qt.TextFormat.PlainText)
        return super().polish(widget)


class Style:
    """The colours in force; widgets that paint themselves read them here. Made once and passed in."""

    def __init__(self, dark: bool = True, strong: bool = False) -> None:
        self.dark, self.strong = dark, strong
        self.colours = tokens(dark, strong)
        self._followers: list[Callable[[], None]] = []

    def follow(self, restyle: Callable[[], None]) -> None:
        """Call something now, and again whenever the appearance has changed: what paints no colours itself."""
        self._followers.append(restyle)
        restyle()

    def c(self, name: str) -> QColor:
        """Return one of the window's own colours."""
        return qcolor(self.colours[name])

    def use(self, app: QApplication, dark: bool, strong: bool | None = None) -> None:
        """Give the application the light or the dark appearance; strong: with high contrast, as before when None."""
        self.dark = dark
        self.strong = self.strong if strong is None else strong
        self.colours = tokens(dark, self.strong)
        font = QFont(FAMILY)
        font.setPointSizeF(10.5)
        app.setFont(font)
        palette = QPalette()
        roles = {
            QPalette.ColorRole.Window: "window",
            QPalette.ColorRole.WindowText: "text",
            QPalette.ColorRole.Base: "raised",
            QPalette.ColorRole.AlternateBase: "window",
            QPalette.ColorRole.Text: "text",
            QPalette.ColorRole.Button: "window",
            QPalette.ColorRole.ButtonText: "text",
            QPalette.ColorRole.Highlight: "accent",
            QPalette.ColorRole.Accent: "accent",
            QPalette.ColorRole.HighlightedText: "on_accent",
            QPalette.ColorRole.ToolTipBase: "raised",
            QPalette.ColorRole.ToolTipText: "text",
            QPalette.ColorRole.PlaceholderText: "quiet",
            QPalette.ColorRole.Link: "accent",
        }
        for role, name in roles.items():
            palette.setColor(role, self.c(name))
            if name == "text":
                palette.setColor(QPalette.ColorGroup.Disabled, role, self.c("disabled"))
        app.setPalette(palette)
        sheet = self._sheet()
        if app.styleSheet() != sheet:  # every widget there is is polished anew
            app.setStyleSheet(sheet)
        for restyle in self._followers:
            restyle()

    def _sheet(self) -> str:
        h = {name: colour.hex for name, colour in self.colours.items()}
        icons = Path(str(files("mellow_finch.ui.kit").joinpath("drawn"))).as_posix()
        tick = f"{icons}/tick-{'light' if self.dark else 'dark'}.svg"
        up = f"{icons}/up-{'pale' if self.dark else 'deep'}.svg"
        down = f"{icons}/down-{'pale' if self.dark else 'deep'}.svg"
        end = "left" if right_to_left() else "right"  # where the arrow of a menu stands
        return f"""
QWidget {{ color: {h["text"]}; }}
QMainWindow, QDialog, #page {{ background: {h["window"]}; }}
QToolTip {{ background: {h["raised"]}; color: {h["text"]}; border: 1px solid {h["edge"]}; padding: 4px; }}
#header, #footer {{ background: {h["window"]}; }}
#footer {{ border-top: 1px solid {h["line"]}; }}
#header {{ border-bottom: 1px solid {h["line"]}; }}
#panel {{ background: {h["window"]}; border-left: 1px solid {h["line"]}; }}
#strip {{ background: {h["window"]}; border-top: 1px solid {h["line"]}; }}
#popover {{ background: {h["window"]}; border: 1px solid {h["edge"]}; border-radius: 8px; }}
QSplitter::handle {{ background: {h["line"]}; }}
QSplitter::handle:hover {{ background: {h["accent"]}; }}
QToolButton[bare="true"] {{ border: 1px solid transparent; background: transparent; padding: 5px; }}
QToolButton[bare="true"] {{ font-size: 9pt; }}
QToolButton[bare="true"]:disabled {{ border: 1px solid transparent; }}
QToolButton[bare="true"]:hover {{ background: {h["hover"]}; }}
QToolButton[bare="true"]:focus {{ border: 2px solid {h["accent"]}; padding: 4px; }}
QToolButton[bare="true"]::menu-indicator {{ image: none; }}
QPushButton[half="left"] {{ border-top-right-radius: 0; border-bottom-right-radius: 0; padding: 5px 9px; }}
QPushButton[half="right"] {{ border-top-left-radius: 0; border-bottom-left-radius: 0; border-left: none; padding: 5px 9px; }}
QPushButton[half]:checked {{ background: {h["pressed"]}; border: 2px solid {h["accent"]}; padding: 4px 8px; font-weight: bold; }}
QLabel[kind="title"] {{ font-size: 15pt; font-weight: bold; }}
QLabel[kind="section"] {{ font-weight: bold; }}
QLabel[kind="quiet"] {{ color: {h["quiet"]}; }}
QLabel[kind="bad"] {{ color: {h["bad"]}; font-weight: bold; }}
QLabel[kind="good"] {{ color: {h["good"]}; font-weight: bold; }}
QPushButton, QToolButton {{ background: {h["raised"]}; border: 1px solid {h["edge"]}; border-radius: 6px; padding: 5px 12px; min-height: 18px; }}
QFileDialog QToolButton {{ padding: 3px; min-height: 16px; }}
QPushButton:hover, QToolButton:hover {{ background: {h["hover"]}; }}
QPushButton:pressed, QToolButton:pressed {{ background: {h["pressed"]}; }}
QPushButton:checked, QToolButton:checked {{ background: {h["pressed"]}; border: 2px solid {h["accent"]}; padding: 4px 11px; }}
QPushButton:focus, QToolButton:focus {{ border: 2px solid {h["accent"]}; padding: 4px 11px; }}
QToolButton[popupMode="2"] {{ padding-{end}: 28px; }}
QToolButton[popupMode="2"]:focus {{ padding-{end}: 27px; }}
QPushButton:disabled, QToolButton:disabled {{ color: {h["disabled"]}; border-color: {h["line"]}; background: {h["window"]}; }}
QPushButton[main="true"] {{ background: {h["accent"]}; color: {h["on_accent"]}; border: 1px solid {h["accent"]}; font-weight: bold; }}
QPushButton[main="true"]:hover {{ border: 2px solid {h["text"]}; padding: 4px 11px; }}
QPushButton[main="true"]:focus {{ border: 2px solid {h["text"]}; padding: 4px 11px; }}
QPushButton[main="true"]:disabled {{ background: {h["window"]}; color: {h["disabled"]}; border: 1px solid {h["line"]}; }}
QPushButton[tab="true"] {{ background: transparent; border: none; border-bottom: 3px solid {h["line"]}; border-radius: 0; padding: 4px 2px 5px 2px; color: {h["quiet"]}; }}
QPushButton[tab="true"]:hover {{ background: {h["hover"]}; color: {h["text"]}; }}
QPushButton[tab="true"]:checked {{ border: none; border-bottom: 3px solid {h["accent"]}; padding: 4px 2px 5px 2px; color: {h["text"]}; font-weight: bold; }}
QPushButton[tab="true"]:focus {{ border: none; border-bottom: 3px solid {h["accent"]}; padding: 4px 2px 5px 2px; background: {h["hover"]}; color: {h["text"]}; }}
QLineEdit, QSpinBox, QDoubleSpinBox, QTimeEdit, QPlainTextEdit {{ background: {h["raised"]}; border: 1px solid {h["edge"]}; border-radius: 6px; padding: 4px 6px; selection-background-color: {h["accent"]}; selection-color: {h["on_accent"]}; }}
QLineEdit:focus, QSpinBox:focus, QDoubleSpinBox:focus, QTimeEdit:focus, QPlainTextEdit:focus {{ border: 2px solid {h["accent"]}; padding: 3px 5px; }}
QLineEdit[kind="bad"] {{ border: 2px solid {h["bad"]}; padding: 3px 5px; }}
QListWidget, QTreeWidget, QListView, QScrollArea#list {{ background: {h["raised"]}; border: 1px solid {h["line"]}; border-radius: 6px; outline: none; }}
QListWidget[swatches="true"] {{ background: transparent; border: 1px solid transparent; }}
QListWidget[swatches="true"]:focus {{ border: 2px solid {h["accent"]}; }}
QListWidget[swatches="true"]::item {{ padding: 0; border: 2px solid transparent; border-radius: 4px; }}
QListWidget[swatches="true"]::item:hover, QListWidget[swatches="true"]::item:focus {{ border: 2px solid {h["text"]}; background: transparent; }}
QListWidget::item, QTreeWidget::item {{ padding: 4px 6px; border-radius: 4px; }}
QListWidget::item:selected, QTreeWidget::item:selected {{ background: {h["pressed"]}; color: {h["text"]}; }}
QListWidget:focus, QTreeWidget:focus {{ border: 2px solid {h["accent"]}; }}
QHeaderView::section {{ background: {h["window"]}; border: none; border-bottom: 1px solid {h["line"]}; padding: 4px 6px; font-weight: bold; }}
QScrollArea {{ background: transparent; border: none; }}
QScrollBar:vertical {{ background: transparent; width: 12px; margin: 0; }}
QScrollBar::handle:vertical {{ background: {h["edge"]}; border-radius: 4px; min-height: 28px; margin: 2px; }}
QScrollBar::add-line, QScrollBar::sub-line, QScrollBar::add-page, QScrollBar::sub-page {{ background: none; border: none; width: 0; height: 0; }}
QAbstractScrollArea::corner {{ background: transparent; border: none; }}
QScrollBar:horizontal {{ background: transparent; height: 12px; }}
QScrollBar::handle:horizontal {{ background: {h["edge"]}; border-radius: 4px; min-width: 28px; margin: 2px; }}
QCheckBox {{ spacing: 8px; }}
QCheckBox::indicator, QListView::indicator {{ width: 16px; height: 16px; border: 1px solid {h["edge"]}; border-radius: 4px; background: {h["raised"]}; }}
QCheckBox::indicator:checked, QListView::indicator:checked {{ background: {h["accent"]}; border: 1px solid {h["accent"]}; image: url({tick}); }}
QSpinBox::up-button, QDoubleSpinBox::up-button, QTimeEdit::up-button {{ width: 20px; border: none; background: transparent; }}
QSpinBox::down-button, QDoubleSpinBox::down-button, QTimeEdit::down-button {{ width: 20px; border: none; background: transparent; }}
QSpinBox::up-arrow, QDoubleSpinBox::up-arrow, QTimeEdit::up-arrow {{ image: url({up}); width: 10px; height: 10px; }}
QSpinBox::down-arrow, QDoubleSpinBox::down-arrow, QTimeEdit::down-arrow {{ image: url({down}); width: 10px; height: 10px; }}
QComboBox {{ background: {h["raised"]}; border: 1px solid {h["edge"]}; border-radius: 6px; padding: 4px 8px; min-height: 20px; }}
QComboBox:focus {{ border: 2px solid {h["accent"]}; padding: 3px 7px; }}
QComboBox::drop-down {{ border: none; width: 26px; }}
QToolButton::menu-indicator {{ image: url({down}); width: 12px; height: 12px; subcontrol-origin: padding; subcontrol-position: right center; right: 10px; }}
QPushButton::menu-indicator {{ image: url({down}); width: 12px; height: 12px; subcontrol-origin: padding; subcontrol-position: right center; right: 10px; }}
QComboBox::down-arrow {{ image: url({down}); width: 12px; height: 12px; }}
QComboBox QAbstractItemView {{ background: {h["raised"]}; color: {h["text"]}; selection-background-color: {h["pressed"]}; selection-color: {h["text"]}; border: 1px solid {h["edge"]}; }}
QCheckBox:focus, QRadioButton:focus {{ color: {h["accent"]}; }}
QRadioButton {{ spacing: 8px; min-height: 24px; }}
QRadioButton::indicator {{ width: 14px; height: 14px; border: 1px solid {h["edge"]}; border-radius: 8px; background: {h["raised"]}; }}
QRadioButton::indicator:checked {{ border: 5px solid {h["accent"]}; width: 6px; height: 6px; background: {h["on_accent"]}; }}
QSlider::groove:horizontal {{ height: 6px; border-radius: 3px; background: {h["sunken"]}; border: 1px solid {h["edge"]}; }}
QSlider::handle:horizontal {{ width: 12px; height: 18px; margin: -7px 0; border-radius: 5px; background: {h["raised"]}; border: 2px solid {h["text"]}; }}
QSlider::handle:horizontal:focus {{ border: 2px solid {h["accent"]}; }}
QSlider::handle:horizontal:disabled {{ border: 2px solid {h["disabled"]}; }}
QMenu {{ background: {h["raised"]}; border: 1px solid {h["edge"]}; padding: 4px; }}
QMenu::item {{ padding: 5px 22px; border-radius: 4px; }}
QMenu::item:selected {{ background: {h["pressed"]}; color: {h["text"]}; }}
QMenu::item:disabled {{ color: {h["disabled"]}; }}
QProgressBar {{ border: 1px solid {h["edge"]}; border-radius: 5px; background: {h["sunken"]}; text-align: center; min-height: 16px; }}
QProgressBar::chunk {{ background: {h["accent"]}; border-radius: 4px; }}
"""
