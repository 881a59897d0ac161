"""A part of a file, as players of sound ask for it (RFC 9110, section 14: bytes=from-to)."""

import re

from django.http import FileResponse, HttpResponse

ASKED = re.compile(r"bytes=(\d{0,15})-(\d{0,15})")


def part_of(whole: FileResponse, asked: str, size: int) -> HttpResponse:
    """The whole file where no part, or several, are asked for; 416 for one outside of it."""
    whole["Accept-Ranges"] = "bytes"
    match = ASKED.fullmatch(asked.strip())
    if not match or not any(match.groups()):
        return whole
    first, last = match.groups()
    start = int(first) if first else max(0, size - int(last))
    end = min(int(last), size - 1) if first and last else size - 1
    if start > end:
        whole.file_to_stream.close()
        return HttpResponse(status=416, headers={"Content-Range": f"bytes */{size}"})
    file = whole.file_to_stream
    file.seek(start)
    response = HttpResponse(
        file.read(end - start + 1), status=206, content_type=whole["Content-Type"]
    )
    file.close()
    response["Content-Range"] = f"bytes {start}-{end}/{size}"
    response["Accept-Ranges"] = "bytes"
    response["Cache-Control"] = whole["Cache-Control"]
    return response
