"""The window. Qt is imported here and nowhere else."""
