"""Numbers only: colour spaces, contrast, difference, gamut and blending."""
