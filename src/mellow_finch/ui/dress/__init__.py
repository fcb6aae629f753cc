"""Dress: what every component and theme will get."""
