"""Saved looks: where they lie, what is said of them, how they are carried to other computers."""
