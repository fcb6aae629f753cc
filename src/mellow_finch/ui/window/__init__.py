"""The window itself, and what connects its parts."""
