"""Tests of inputs."""
