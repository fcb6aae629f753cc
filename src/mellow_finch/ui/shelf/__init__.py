"""The shelf: a wall of saved looks, and what can be done with them."""
