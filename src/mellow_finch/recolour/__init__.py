"""The colours of a file that exists already, grouped, mapped to roles and rewritten."""
