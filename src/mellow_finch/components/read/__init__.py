"""Reading files of components back: the colours at each place, and what takes in others."""
