"""The ready titles as they are designed: `make titles` writes them as files."""
