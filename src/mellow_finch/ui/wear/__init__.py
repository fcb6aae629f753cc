"""Wear: putting on, taking off."""
