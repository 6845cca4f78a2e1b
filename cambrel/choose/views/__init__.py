"""Request handlers of choose."""
