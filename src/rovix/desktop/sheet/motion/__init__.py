"""The sheet's Motion page: the moves on the layer, and what tunes the chosen one."""
