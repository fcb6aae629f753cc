"""Lossless readers, one per syntax: every colour literal with its span and context."""
