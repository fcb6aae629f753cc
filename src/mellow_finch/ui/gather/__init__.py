"""Gather: bringing colours in."""
