"""Drawings and pixel pictures of themes, redrawn in the colours of a look."""
