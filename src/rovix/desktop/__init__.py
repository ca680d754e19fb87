"""The window. Qt is imported here and nowhere else."""

from rovix.desktop.no_features import read_no_sources

read_no_sources()
