"""Entries that nobody has made up before, one in each table of the house; see test_additions."""
