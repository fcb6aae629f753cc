"""What every part of the window is made of: appearance, icons, small widgets, jobs."""
