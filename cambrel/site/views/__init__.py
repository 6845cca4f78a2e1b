"""Request handlers of site."""
