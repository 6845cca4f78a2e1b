"""Tests of wording."""
