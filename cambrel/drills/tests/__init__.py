"""Tests of drills."""
