"""Benchmarks with peers, each a ratio within one run. Run them with ./finch bench [NAME ...]."""
