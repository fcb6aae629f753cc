"""The made-up home, its pictures and its looks."""
