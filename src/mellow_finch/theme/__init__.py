"""Themes, configurations and archives that exist already: recognised, recoloured whole, mended, laid out."""
