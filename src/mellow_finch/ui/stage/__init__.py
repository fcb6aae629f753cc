"""The live picture of a whole desktop."""
