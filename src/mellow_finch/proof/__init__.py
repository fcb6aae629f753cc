"""Pairs as they stand in the files, judged; and the smallest mends."""
