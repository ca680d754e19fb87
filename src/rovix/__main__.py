"""`python -m rovix`."""

from rovix.cli import main

if __name__ == "__main__":
    main()
