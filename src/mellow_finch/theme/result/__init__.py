"""What recolouring a theme gives: an account of it, and the files by their place in a home."""
