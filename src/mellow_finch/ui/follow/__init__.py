"""Following, in the window."""
