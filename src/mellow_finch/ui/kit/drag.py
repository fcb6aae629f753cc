"""What is dragged from one part of the window to another."""

from __future__ import annotations

ROLE_MIME = "application/x-mellow-finch-role"
