"""Bringing in files: each reader turns bytes into rows of the document's sections, with the place where each stood. No
database here.
"""

from cambrel.shelf.intake.any_file import read_file
from cambrel.shelf.intake.found import Contents, FileError, FileRecord, Known

__all__ = ["Contents", "FileError", "FileRecord", "Known", "read_file"]
