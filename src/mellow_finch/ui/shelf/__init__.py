"""The shelf: a wall of kept looks, and what can be done with them."""
