"""What tests and tools drive: homes, people and looks taking turns, spoilt inputs, real desktops, every view laid out."""
