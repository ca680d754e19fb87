"""Files in and out of pixels and samples.

Nothing is imported here: the window knows of files without loading the codecs.
"""
