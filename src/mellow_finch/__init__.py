"""Mellow Finch: one palette, every part of the desktop, readable everywhere."""

__version__ = "0.9.0"
