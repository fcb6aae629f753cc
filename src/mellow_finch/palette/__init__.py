"""Swatches to roles: derivation, pairs and solving."""
