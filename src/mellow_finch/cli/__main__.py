"""`python -m mellow_finch.cli`."""

from . import main

if __name__ == "__main__":
    main()
