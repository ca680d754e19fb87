"""A picture plan becomes premultiplied BGRA pixels.

Nothing is imported here: what only names parts of it need not load the canvas.
"""
