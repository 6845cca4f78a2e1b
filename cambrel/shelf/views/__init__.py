"""Request handlers of shelf."""
