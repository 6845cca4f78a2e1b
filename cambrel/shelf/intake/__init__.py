"""Bringing in files: each reader turns bytes into rows of the document's sections, with the place where each stood. No database here."""

from cambrel.shelf.intake.found import FileError, Found, read_file

__all__ = ["FileError", "Found", "read_file"]
