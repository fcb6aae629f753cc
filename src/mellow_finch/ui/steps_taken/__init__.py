"""The steps taken: going to one, comparing two, keeping variants."""
