"""Pictures of pages from the files that they come in: photographs, scans and PDFs."""

from io import BytesIO

import cv2
import numpy as np
import pypdfium2
from PIL import Image, ImageOps, UnidentifiedImageError
from pillow_heif import register_heif_opener

from wren_ladder.drumming.chart import ChartError
from wren_ladder.drumming.page_reading.found import MOST_PAGES
from wren_ladder.drumming.page_reading.pixels import Gray

MOST_PIXELS = 120_000_000  # of a picture before it is made smaller
LONGEST_SIDE = 3600  # pixels that are kept: an A4 page at 300 dpi and a little more
LEAST_SIDE = 400
DOTS_PER_INCH = 300  # at which a PDF is drawn
POINTS_PER_INCH = 72
QUALITY = 88  # of the JPEG that is kept
PDF_BEGINS = b"%PDF"

register_heif_opener()


def open_pictures(name: str, data: bytes, pages: tuple[int, ...] = ()) -> list[Gray]:
    """The pages of a file as grey pictures, upright; ``pages`` of a PDF count from 1 and are
    all where none is named. ChartError says why a file is none."""
    if PDF_BEGINS in data[:1024]:
        return _pages_of_pdf(name, data, pages)
    return _pictures(name, data)


def _pages_of_pdf(name: str, data: bytes, pages: tuple[int, ...]) -> list[Gray]:
    try:
        document = pypdfium2.PdfDocument(data)
    except pypdfium2.PdfiumError as error:
        if "password" in str(error).lower():
            raise ChartError(
                f"{name} is locked with a password; open it with its password, print it into a "
                "new PDF and take that"
            ) from error
        raise ChartError(f"{name} is no PDF that can be opened; it may be damaged") from error
    count = len(document)
    wanted = pages or tuple(range(1, count + 1))
    for page in wanted:
        if not 1 <= page <= count:
            raise ChartError(f"{name} has no page {page}, it has {count}")
    if len(wanted) > MOST_PAGES:
        raise ChartError(
            f"{name} has {len(wanted)} pages, one piece has at most {MOST_PAGES}; say which "
            "are wanted, as 3-5"
        )
    return [_drawn(document[page - 1]) for page in wanted]


def _drawn(page: pypdfium2.PdfPage) -> Gray:
    longest = max(page.get_size())
    scale = min(DOTS_PER_INCH / POINTS_PER_INCH, LONGEST_SIDE / max(longest, 1))
    return page.render(scale=scale, grayscale=True).to_numpy().copy()


def _pictures(name: str, data: bytes) -> list[Gray]:
    try:
        with Image.open(BytesIO(data)) as picture:
            frames = min(getattr(picture, "n_frames", 1), MOST_PAGES)
            if picture.format != "TIFF":
                frames = 1
            found = []
            for frame in range(frames):
                picture.seek(frame)
                found.append(_grey(name, picture))
            return found
    except ChartError:
        raise
    except UnidentifiedImageError as error:
        raise ChartError(
            f"{name} is no picture and no PDF; a photograph (JPEG, HEIC, PNG, WebP), a scan "
            "(TIFF) or a PDF can be read"
        ) from error
    except (OSError, SyntaxError, ValueError, Image.DecompressionBombError) as error:
        raise ChartError(f"{name} cannot be opened; it may be damaged or cut off") from error


def _grey(name: str, picture: Image.Image) -> Gray:
    width, height = picture.size
    if width * height > MOST_PIXELS:
        raise ChartError(
            f"{name} has {width * height // 1_000_000} million pixels, at most "
            f"{MOST_PIXELS // 1_000_000} can be taken; 300 dots per inch are enough"
        )
    if min(width, height) < LEAST_SIDE:
        raise ChartError(
            f"{name} is {width} x {height} pixels: too small to see notes. Photograph the page "
            "from near, or scan it at 200 dots per inch or more"
        )
    picture.draft("L", (LONGEST_SIDE, LONGEST_SIDE))
    upright = ImageOps.exif_transpose(picture)
    if upright.mode in ("RGBA", "LA", "PA") or "transparency" in upright.info:
        layer = upright.convert("RGBA")
        upright = Image.new("RGBA", layer.size, "white")
        upright.alpha_composite(layer)
    if upright.mode.startswith("I"):
        upright = Image.fromarray((np.asarray(upright) / 257).astype(np.uint8))
    return made_smaller(np.asarray(upright.convert("L")))


def made_smaller(gray: Gray) -> Gray:
    scale = LONGEST_SIDE / max(gray.shape)
    if scale >= 1:
        return gray
    return cv2.resize(gray, None, fx=scale, fy=scale, interpolation=cv2.INTER_AREA)


def pack(gray: Gray) -> bytes:
    """A picture as a JPEG."""
    return cv2.imencode(".jpg", gray, [cv2.IMWRITE_JPEG_QUALITY, QUALITY])[1].tobytes()


def unpack(data: bytes) -> Gray:
    """What was packed here."""
    gray = cv2.imdecode(np.frombuffer(data, np.uint8), cv2.IMREAD_GRAYSCALE)
    if gray is None:
        raise ValueError("this was not packed here")
    return gray
