"""The five steps of the window: one file each, and one row in `rows`."""
