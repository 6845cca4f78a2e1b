"""Request handlers of learn."""
