"""The guide, the tour, and what a thing under the pointer is."""
