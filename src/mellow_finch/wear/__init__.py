"""Putting files in place with a snapshot first, and the way back."""
