"""Following the wallpaper and the time of day without a window."""
