"""Work on whole projects: opening, drawing in several processes, exporting."""

from rovix.engine.export import ExportJob, export
from rovix.engine.open_project import OpenProject, open_project

__all__ = ["ExportJob", "OpenProject", "export", "open_project"]
