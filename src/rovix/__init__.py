"""Rovix: animated words for people who cut videos.

>>> import rovix
>>> with rovix.open_project("title.rovix") as project:  # doctest: +SKIP
...     pixels = project.picture(12, (960, 540))
"""

from typing import Any

__version__ = "0.1.0"
__all__ = ["open_project"]


def __getattr__(name: str) -> Any:
    # Opening pulls in the painter and the codecs; `import rovix.time` should not.
    if name == "open_project":
        from rovix.engine.open_project import open_project

        return open_project
    raise AttributeError(f"module 'rovix' has no attribute '{name}'")
