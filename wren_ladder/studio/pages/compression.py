"""Answers are packed on their way, but for what is packed already."""

from django.http import HttpRequest, HttpResponse
from django.middleware.gzip import GZipMiddleware

PACKED = (
    "font/",
    "audio/",
    "application/pdf",
    "application/zip",
    "application/octet-stream",  # the sounds
    "image/png",
)


class PackingMiddleware(GZipMiddleware):
    """By gzip, which every browser reads on every connection, and which Django brings."""

    def process_response(self, request: HttpRequest, response: HttpResponse) -> HttpResponse:
        if response.get("Content-Type", "").startswith(PACKED):
            return response
        return super().process_response(request, response)
