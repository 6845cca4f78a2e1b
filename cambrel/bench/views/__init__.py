"""Request handlers of bench."""
