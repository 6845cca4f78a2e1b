"""Drills: questions made from the core, each with the answers that the typical mistakes give, and how they are said.
Pure.
"""
