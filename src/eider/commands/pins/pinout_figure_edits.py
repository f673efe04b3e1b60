"""The pinout figure of the datasheet that a part is compared with."""

import msgspec

from eider.datasheets.figures.pinout_figures import ReadFigure
from eider.model.bundle import Bundle
from eider.model.part import PinoutFigure

replace = msgspec.structs.replace


def use_pinout_figure(bundle: Bundle, read: ReadFigure, document: str, page: int) -> Bundle:
    """Hold the part against what was read of a figure of a page; `document` is the datasheet's SHA-256.

    Viewed from is kept where an older reading of the same page said it.
    """
    old = bundle.part.pinout
    is_same = old is not None and (old.document, old.page) == (document, page)
    seen = old.seen if old is not None and is_same else "above"
    x0, y0, x1, y1 = (round(at, 2) for at in read.box)
    # A hundredth of a point is finer than any drawing.
    figure = PinoutFigure(
        document=document, page=page, box=(x0, y0, x1, y1), pins=read.pins, size=round(read.size, 2), seen=seen
    )
    return replace(bundle, part=replace(bundle.part, pinout=figure))


def drop_pinout_figure(bundle: Bundle) -> Bundle:
    """Hold the part against no figure any more."""
    return replace(bundle, part=replace(bundle.part, pinout=None))


def set_figure_seen(bundle: Bundle, seen: str) -> Bundle:
    """From where the pinout figure shows the package: one of `SEEN_FROM`."""
    figure = bundle.part.pinout
    return replace(bundle, part=replace(bundle.part, pinout=replace(figure, seen=seen))) if figure else bundle
