"""Pictures as they are kept: PNG or JPEG, upright, with nothing in them but the picture."""

import warnings
from io import BytesIO
from typing import Final

from PIL import Image, ImageOps, UnidentifiedImageError

from graveljar.core.errors import UnreadableDocument

MAX_PICTURE_BYTES: Final = 4_000_000
MAX_PIXELS: Final = 40_000_000
MEDIA: Final = {"PNG": "image/png", "JPEG": "image/jpeg"}
QUALITY: Final = 88


def cleaned(data: bytes) -> tuple[str, bytes]:
    """A picture written anew, without place, time, camera and whatever else it carried.

    Gives its media type and its bytes.

    Raises
    ------
    UnreadableDocument : it is no PNG or JPEG, or has too many pixels.
    """
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("error")
            with Image.open(BytesIO(data), formats=tuple(MEDIA)) as opened:
                if opened.width * opened.height > MAX_PIXELS:
                    raise UnreadableDocument(f"It has more than {MAX_PIXELS} pixels.")
                kind = str(opened.format)
                # As it was held: the turn is told in what is left out.
                upright = ImageOps.exif_transpose(opened)
                plain = upright.convert("RGB" if kind == "JPEG" else "RGBA")
    except (UnidentifiedImageError, OSError, SyntaxError, ValueError, Warning):
        raise UnreadableDocument("It is no picture in PNG or JPEG.") from None
    bare = Image.frombytes(plain.mode, plain.size, plain.tobytes())
    out = BytesIO()
    bare.save(out, kind, quality=QUALITY, optimize=True)
    return MEDIA[kind], out.getvalue()
