"""Tune: deciding which colour goes where."""
