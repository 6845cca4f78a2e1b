"""Request handlers of field."""
