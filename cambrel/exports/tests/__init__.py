"""Tests of exports."""
