"""A photo, brought to the size that a logbook needs, without what it says of whom and where."""

from __future__ import annotations

import io
import warnings

from PIL import Image, ImageOps, UnidentifiedImageError

from zealous_lark.formats.errors import BadFileError

MOST_SIDE = 1_600
"""Most pixels along a side of what is kept."""
_MOST_PIXELS = 60_000_000
_QUALITY = 82
_ALLOWED = "a photo as JPEG, PNG or WebP"


def read_photo(data: bytes) -> bytes:
    """A photo as a JPEG, upright and at most 1,600 pixels a side. Raises BadFileError."""
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("ignore")
            with Image.open(io.BytesIO(data), formats=["JPEG", "PNG", "WEBP"]) as opened:
                if opened.width * opened.height > _MOST_PIXELS:
                    raise BadFileError(f"{opened.width} by {opened.height} pixels", "60 million pixels at most")
                # A JPEG is read at the scale that is needed, which takes a fraction of the memory.
                opened.draft("RGB", (2 * MOST_SIDE, 2 * MOST_SIDE))
                upright = ImageOps.exif_transpose(opened).convert("RGB")
    except BadFileError:
        raise
    except (UnidentifiedImageError, OSError, ValueError, SyntaxError, Image.DecompressionBombError) as error:
        raise BadFileError(f"no photo that can be read ({type(error).__name__})", _ALLOWED) from None
    upright.thumbnail((MOST_SIDE, MOST_SIDE))
    out = io.BytesIO()
    # Made again out of its pixels: position, time and maker of the camera stay behind.
    Image.frombytes("RGB", upright.size, upright.tobytes()).save(out, "JPEG", quality=_QUALITY, optimize=True)
    return out.getvalue()
