"""Photographs as a camera made them: their settings read from the head of a file, pixels decoded within bounds, and
what is measured on them.
"""
