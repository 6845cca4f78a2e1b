"""A link of Cambrel that was pasted into the line: where it leads on this host."""

from __future__ import annotations

from urllib.parse import urlsplit

from django.urls import Resolver404, resolve


def pasted_address(text: str) -> str:
    """The address that a pasted link leads to here, whatever host it was copied from.

    Parameters
        text: as it was typed
    Returns
        path and query; "" for what is no link, or leads to no page of ours
    """
    if " " in text or not text.lower().startswith(("http://", "https://", "/?b=")):
        return ""
    try:
        parts = urlsplit(text)
        path = parts.path or "/"
        resolve(path)
    except (ValueError, Resolver404):
        return ""
    if path.startswith("//"):
        return ""
    return f"{path}?{parts.query}" if parts.query else path
