"""The Look, its file and its edits."""
