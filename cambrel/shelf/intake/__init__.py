"""Bringing in files: each reader turns bytes into rows of the document's sections, with the place where each stood. No database here."""

from cambrel.shelf.intake.found import Contents, FileError, Found, Known
from cambrel.shelf.intake.reading import read_file

__all__ = ["Contents", "FileError", "Found", "Known", "read_file"]
