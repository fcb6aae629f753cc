"""Where desktops keep their settings, each place behind the same interface."""
