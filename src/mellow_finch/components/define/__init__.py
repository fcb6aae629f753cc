"""Definitions of components as data: read, checked, those of a person too."""
