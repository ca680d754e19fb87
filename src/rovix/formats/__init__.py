"""Files in and out."""

from rovix.formats.project_file import (
    SUFFIX,
    ProjectFileError,
    parse_project,
    project_bytes,
    read_project,
    write_project,
)
from rovix.formats.whole_file import replacing, write_whole

__all__ = [
    "SUFFIX",
    "ProjectFileError",
    "parse_project",
    "project_bytes",
    "read_project",
    "replacing",
    "write_project",
    "write_whole",
]
