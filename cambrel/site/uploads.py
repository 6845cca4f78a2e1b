"""What is sent is refused by its size before it is read, and a visitor's upload at once: nobody who cannot keep it can make the server read it."""

from typing import Any

from django.conf import settings
from django.contrib.auth.views import redirect_to_login
from django.shortcuts import render

from cambrel.owners.requests import Request

SLACK = 64 * 1024
"""For the parts of a form around its files."""
DRAIN_TIMES = 4
"""So many times the limit is read and thrown away, so that the browser gets the message and not a broken connection."""
CHUNK = 256 * 1024


class UploadLimits:
    def __init__(self, get_response: Any) -> None:
        self.get_response = get_response

    def __call__(self, request: Request) -> Any:
        length = request.META.get("CONTENT_LENGTH") or "0"
        length = (
            int(length)
            if length.isascii() and length.isdigit() and len(length) < 16
            else settings.MOST_UPLOAD_BYTES * DRAIN_TIMES
        )
        has_files = request.META.get("CONTENT_TYPE", "").startswith("multipart/")
        if has_files and length > SLACK and not request.user.is_authenticated:
            return redirect_to_login(request.path)
        most = settings.MOST_UPLOAD_BYTES if has_files else settings.DATA_UPLOAD_MAX_MEMORY_SIZE
        if length <= most + SLACK:
            return self.get_response(request)
        if request.user.is_authenticated and length < DRAIN_TIMES * settings.MOST_UPLOAD_BYTES:
            while request.read(CHUNK):
                pass
        context = {
            "status": 413,
            "title": "That is too large",
            "says": f"At most {most // 2**20} MB are read at a time; send it in parts.",
        }
        return render(request, "site/refused.html", context, status=413)
