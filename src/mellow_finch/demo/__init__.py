"""The demo home, its pictures and its looks."""
