"""Open palette formats, one file each, and one list of them all."""
