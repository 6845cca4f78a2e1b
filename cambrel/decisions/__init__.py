"""Decisions: kits and the pictures to be made with them, what one change would turn, and how sure an answer is.
Pure.
"""
