"""Pictures for tests, half blue and half red."""

from __future__ import annotations

import io

from PIL import Image


def picture(kind="JPEG", size=(60, 40), mode="RGB", **more):
    image = Image.new(mode, size, "red" if mode == "RGB" else None)
    if mode == "RGB":
        image.paste("blue", (0, 0, size[0] // 2, size[1]))
    out = io.BytesIO()
    image.save(out, kind, **more)
    return out.getvalue()
