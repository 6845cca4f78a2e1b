"""Tests of trials."""
