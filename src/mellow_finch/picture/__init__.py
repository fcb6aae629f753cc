"""Image files to weighted colours and where they lie."""
