"""Fields and the wheel."""

from __future__ import annotations

import pytest
from PyQt6.QtCore import QPoint, Qt, QTime
from PyQt6.QtGui import QWheelEvent
from PyQt6.QtWidgets import QApplication, QLabel, QLineEdit, QScrollArea, QVBoxLayout, QWidget

from mellow_finch.ui.kit.fields import NumberField, Slider, TimeField
from mellow_finch.ui.kit.parts import Choice


@pytest.mark.parametrize("make", [Choice, NumberField, TimeField, Slider])
def test_the_wheel_changes_a_field_only_where_it_has_the_focus(qtbot, make):
    """Over any other it scrolls what the field stands in."""
    area, field, other = QScrollArea(), make(), QLineEdit()
    if isinstance(field, Choice):
        field.addItems([str(i) for i in range(9)])
    inside = QWidget()
    column = QVBoxLayout(inside)
    for widget in (other, field, QLabel("\n" * 60)):
        column.addWidget(widget)
    area.setWidget(inside)
    area.resize(200, 160)
    qtbot.addWidget(area)
    area.show()
    area.activateWindow()
    other.setFocus()

    def value():
        return (
            field.currentIndex()
            if isinstance(field, Choice)
            else field.text()
            if make in (NumberField, TimeField)
            else field.value()
        )

    def turn():
        at = field.rect().center()
        event = QWheelEvent(
            at.toPointF(), field.mapToGlobal(at).toPointF(), QPoint(), QPoint(0, -120), Qt.MouseButton.NoButton,
            Qt.KeyboardModifier.NoModifier, Qt.ScrollPhase.NoScrollPhase, False,
        )  # fmt: skip
        QApplication.sendEvent(field, event)
        return event.isAccepted()  # one that is not goes on to what the field stands in

    if isinstance(field, TimeField):
        field.setTime(QTime(12, 0))
    before = value()
    assert not turn()
    assert value() == before and not field.hasFocus()
    field.setFocus()
    qtbot.waitUntil(field.hasFocus)
    if not isinstance(field, Choice):
        getattr(field, "setTime" if make is TimeField else "setValue")(QTime(12, 0) if make is TimeField else 50)
        before = value()
    assert turn()
    assert value() != before
