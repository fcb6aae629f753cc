"""The one place where a colour is chosen, for whatever it is wanted."""
