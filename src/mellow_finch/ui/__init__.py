"""The window: Qt Widgets live only here."""
