"""The core: numbers only. Pure functions and frozen dataclasses; no Django, no screen, no gear names."""
