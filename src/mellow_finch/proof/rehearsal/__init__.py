"""Rehearsal: real programs with a look in a hidden session, photographed and measured before anything is written."""
