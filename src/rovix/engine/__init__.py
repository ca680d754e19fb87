"""Work on whole projects: opening, drawing in several processes, exporting.

Nothing is imported here: the window asks other processes without loading what they draw and encode with.
"""
