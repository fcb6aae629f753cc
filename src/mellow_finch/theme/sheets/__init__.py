"""Stylesheets and keyed files of themes: judged at every place that is painted, and mended the smallest way."""
