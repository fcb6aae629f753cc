"""The real toolkit: its gallery of widgets, drawn and measured in a process of its own."""
