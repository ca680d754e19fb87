"""`python -m rovix`."""

from rovix.entry import main

if __name__ == "__main__":
    main()
