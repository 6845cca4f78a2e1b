"""Tests of phrases."""
