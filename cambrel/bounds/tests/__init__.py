"""Tests of bounds."""
