"""Proof: what cannot be read, and mending it."""
