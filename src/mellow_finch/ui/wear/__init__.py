"""Wear: applying, taking off."""
