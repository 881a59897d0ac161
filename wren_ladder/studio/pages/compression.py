"""Answers are packed on their way, but for what is packed already."""

from compression_middleware.middleware import CompressionMiddleware
from django.http import HttpRequest, HttpResponse

PACKED = (
    "font/",
    "audio/",
    "application/pdf",
    "application/zip",
    "application/octet-stream",  # the sounds
    "image/png",
)


class PackingMiddleware(CompressionMiddleware):
    """Zstandard, Brotli or gzip, whichever of them the browser reads."""

    def process_response(self, request: HttpRequest, response: HttpResponse) -> HttpResponse:
        if response.get("Content-Type", "").startswith(PACKED):
            return response
        return super().process_response(request, response)
