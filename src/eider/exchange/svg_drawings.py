"""Drawings as SVG 1.1."""

from xml.sax.saxutils import escape, quoteattr

from eider.drawings.drawing_layout import fit_view, resolve_primitives
from eider.drawings.primitives import Area, Disc, Drawing, Line, Plain, Text
from eider.drawings.role_styles import Style, palette, styles

# Capitals are this share of a font's size, in the fonts that readers commonly have.
CAPITAL = 0.72
_ANCHOR = {"left": "start", "middle": "middle", "right": "end"}


def svg_text(drawing: Drawing, width: float = 720.0, height: float = 540.0, title: str = "") -> str:
    """The drawing fitted into a picture of this size in points; coordinates inside are mm: it can be measured."""
    scale, (cx, cy), size = fit_view(drawing, width, height)
    w, h = width * scale, height * scale
    box = f"{_n(cx - w / 2)} {_n(-cy - h / 2)} {_n(w)} {_n(h)}"
    x, y, *_ = box.split()
    lines = [
        '<?xml version="1.0" encoding="UTF-8"?>',
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{width:g}pt" height="{height:g}pt" '
        f'viewBox="{box}" data-drawing="eider" font-family="DejaVu Sans, Helvetica, sans-serif">',
        f"<title>{escape(title)}</title>",
        f'<rect x="{x}" y="{y}" width="{_n(w)}" height="{_n(h)}" fill="{palette()["paper"]}"/>',
    ]
    looks = styles()
    lines += [_element(item, looks[item.role], scale) for item in resolve_primitives(drawing, scale, size)]
    return "\n".join([*lines, "</svg>", ""])


def _element(item: Plain, style: Style, scale: float) -> str:
    if isinstance(item, Text):
        return _text(item, style)
    place = f" data-place={quoteattr(str(item.address))}" if item.address else ""
    if isinstance(item, Line):
        look = _stroke(style, item.width or style.width * scale, scale)
        return f'<polyline points="{_points(item.points)}" fill="none"{look}{place}/>'
    look = f' fill="{style.fill or "none"}"' + (_stroke(style, style.width * scale, scale) if style.stroke else "")
    alpha = f' opacity="{style.alpha:g}"' if style.alpha < 1 else ""
    if isinstance(item, Disc):
        x, y = item.centre
        return f'<circle cx="{_n(x)}" cy="{_n(-y)}" r="{_n(item.radius)}"{look}{alpha}{place}/>'
    assert isinstance(item, Area)
    return f'<polygon points="{_points(item.outline)}"{look}{alpha}{place}/>'


def _stroke(style: Style, width: float, scale: float) -> str:
    dash = f' stroke-dasharray="{" ".join(_n(d * scale) for d in style.dash)}"' if style.dash else ""
    return f' stroke="{style.stroke}" stroke-width="{_n(width)}" stroke-linejoin="round" stroke-linecap="round"{dash}'


def _text(item: Text, style: Style) -> str:
    x, y = item.at
    drop = {"bottom": 0.0, "middle": item.height / 2, "top": item.height}[item.vertical]
    turn = f' transform="rotate({_n(-item.angle)} {_n(x)} {_n(-y)})"' if item.angle else ""
    bar = ' text-decoration="overline"' if item.overbar else ""
    return (
        f'<text x="{_n(x)}" y="{_n(-y + drop)}" font-size="{_n(item.height / CAPITAL)}" fill="{style.fill}" '
        f'text-anchor="{_ANCHOR[item.horizontal]}"{bar}{turn}>{escape(item.text)}</text>'
    )


def _points(points: tuple[tuple[float, float], ...]) -> str:
    return " ".join(f"{_n(x)},{_n(-y)}" for x, y in points)


def _n(value: float) -> str:
    return f"{value:.4f}".rstrip("0").rstrip(".") or "0"
