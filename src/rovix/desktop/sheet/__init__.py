"""The sheet: the selected layer's settings in working order."""
