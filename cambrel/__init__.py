"""Cambrel: equivalence between camera formats, worked out and shown."""
