"""A picture made small, in a process of its own: what is inside one is only known once it is
opened, and some take far more room than their file."""

import io
import warnings
from base64 import b64decode, b64encode

from PIL import Image, ImageOps, UnidentifiedImageError

from finebatch.formats.apart import answer_apart

MOST_PIXELS = 80_000_000
MOST_PNG_PIXELS = 30_000_000
"""A PNG is unpacked whole, a JPEG only as far as it is wanted."""
LONGEST_PX = 1600
QUALITY = 85
MEMORY = 700 << 20


class NotTaken(ValueError):
    """A picture that is not taken; the message says why."""


def opened_small(sent: bytes) -> Image.Image:
    """A picture of at most 1600 px, upright. `NotTaken` for what is none."""
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("error", Image.DecompressionBombWarning)
            with Image.open(io.BytesIO(sent), formats=("JPEG", "PNG")) as opened:
                most = MOST_PNG_PIXELS if opened.format == "PNG" else MOST_PIXELS
                if opened.width * opened.height > most:
                    raise NotTaken("This photo has too many pixels.")
                opened.draft("RGB", (2 * LONGEST_PX, 2 * LONGEST_PX))
                upright = ImageOps.exif_transpose(opened)
                picture = upright.convert("RGB")
    except UnidentifiedImageError as error:
        raise NotTaken("This is no JPEG and no PNG.") from error
    except (Image.DecompressionBombWarning, Image.DecompressionBombError) as error:
        raise NotTaken("This photo has too many pixels.") from error
    except NotTaken:
        raise
    except (OSError, ValueError, SyntaxError) as error:
        raise NotTaken("This photo is broken.") from error
    picture.thumbnail((LONGEST_PX, LONGEST_PX))
    return picture


def shrunk(sent: bytes) -> bytes:
    """A JPEG of at most 1600 px without metadata. `NotTaken` for what is no picture."""
    picture = opened_small(sent)
    bare = Image.new("RGB", picture.size)
    bare.paste(picture)
    written = io.BytesIO()
    bare.save(written, "JPEG", quality=QUALITY, optimize=True)
    return written.getvalue()


def _answer(sent: str) -> dict[str, str]:
    try:
        return {"jpeg": b64encode(shrunk(b64decode(sent))).decode()}
    except NotTaken as error:
        return {"fault": str(error)}


if __name__ == "__main__":
    answer_apart(_answer, memory=MEMORY)
