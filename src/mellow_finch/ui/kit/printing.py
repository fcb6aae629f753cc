"""Pages of HTML as PDF."""

from __future__ import annotations

from PyQt6.QtCore import QBuffer, QByteArray, QIODevice, QMarginsF
from PyQt6.QtGui import QFont, QPageSize, QPdfWriter, QTextDocument

from .style import FAMILY

_MARGIN_MM = 16.0


def pdf_of(html: str) -> bytes:
    """Return a page of HTML on sheets of A4. Needs an application."""
    data = QByteArray()
    buffer = QBuffer(data)
    buffer.open(QIODevice.OpenModeFlag.WriteOnly)
    writer = QPdfWriter(buffer)
    writer.setPageSize(QPageSize(QPageSize.PageSizeId.A4))
    writer.setPageMargins(QMarginsF(_MARGIN_MM, _MARGIN_MM, _MARGIN_MM, _MARGIN_MM))
    writer.setResolution(150)
    document = QTextDocument()
    document.setDefaultFont(QFont(FAMILY, 9))
    document.setHtml(html)
    document.print(writer)
    buffer.close()
    return bytes(data.data())
