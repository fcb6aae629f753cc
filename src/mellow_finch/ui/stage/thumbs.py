"""Small true pictures of components, painted from their read-back files when there is time for it."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QObject, QRectF, QTimer, pyqtSignal
from PyQt6.QtGui import QColor, QImage, QPainter, QPixmap

from ..kit.jobs import JobProgress, Jobs
from ..kit.painting import painting
from .brush import Brush
from .lay import PaintsOf, ViewOptions, lay_picture
from .scene import close_of, draw_scene

_WIDTH, _HEIGHT = 122, 76  # twice the size that rows show, for dense screens
_REST_MS = 120
_PAINTING = "small pictures of components"  # the key of the job


class Thumbs(QObject):
    """Keeps a picture of each component. One that is out of date stays in sight until its successor is painted."""

    painted = pyqtSignal()

    def __init__(
        self,
        paints_of: Callable[[str], PaintsOf],
        picture: Callable[[], QImage | None],
        seen: Callable[[], ViewOptions | None],
        wanted: Callable[[], list[str]],
        jobs: Jobs,
    ) -> None:
        """paints_of: what a component's files say, and what stands around it; wanted: the components in sight."""
        super().__init__()
        self._paints_of, self._picture, self._seen, self._wanted = paints_of, picture, seen, wanted
        self._jobs = jobs
        self._known: dict[str, QPixmap] = {}
        self.fresh: set[str] = set()
        self._timer = QTimer(self)
        self._timer.setSingleShot(True)
        self._timer.timeout.connect(self._paint)

    def of(self, component: str) -> QPixmap | None:
        """Return the picture there is."""
        return self._known.get(component)

    def forget(self) -> None:
        """Paint every picture anew, when the hand rests."""
        self._jobs.cancel(_PAINTING)
        self.fresh.clear()
        self._timer.start(_REST_MS)

    def catch_up(self) -> None:
        """Paint what has come into sight, after what is being painted."""
        if not self._timer.isActive() and not self._jobs.running(_PAINTING):
            self._timer.start(0)

    def _paint(self) -> None:
        """Paint what is in sight and out of date, one after the other, off the window's thread."""
        seen = self._seen()
        left = [id_ for id_ in self._wanted() if id_ not in self.fresh]
        if seen is None or not left:
            return
        rows, picture = [(id_, self._paints_of(id_)) for id_ in left], self._picture()

        def work(progress: JobProgress) -> None:
            for id_, paints in rows:
                progress.give((id_, _painted(id_, paints, picture, seen)))

        self._jobs.start(_PAINTING, work, lambda _: self._paint(), on_part=self._take)

    def _take(self, part: tuple[str, QImage]) -> None:
        id_, image = part
        self._known[id_] = QPixmap.fromImage(image)
        self.fresh.add(id_)
        self.painted.emit()


def _painted(component: str, paints: PaintsOf, picture: QImage | None, seen: ViewOptions) -> QImage:
    image = QImage(_WIDTH, _HEIGHT, QImage.Format.Format_RGB32)
    with painting(image) as painter:
        painter.setRenderHints(QPainter.RenderHint.Antialiasing | QPainter.RenderHint.SmoothPixmapTransform)
        view = close_of(component)
        scale = max(_WIDTH / view.width(), _HEIGHT / view.height())
        painter.scale(scale, scale)
        painter.translate(-view.topLeft())
        painter.setClipRect(QRectF(view))
        painter.fillRect(view, QColor(128, 128, 128))
        if picture is not None and not picture.isNull():
            lay_picture(painter, picture, seen)
        draw_scene(Brush(painter, paints, noting=False, flat=seen.flat), component, seen.shape)
    return image
