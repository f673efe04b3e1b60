"""The proof as one HTML file: drawings that zoom, values beside their places in the datasheet, the body's six sides."""

import base64
import io
from collections.abc import Iterable, Iterator, Mapping, Sequence
from html import escape
from pathlib import Path

from PIL import Image

from eider import __version__
from eider.bodies.pictures.body_camera import Camera
from eider.bodies.solids.materials import MaterialTable
from eider.drawings.land_drawing import pattern_drawing
from eider.drawings.package_drawing import package_drawings
from eider.drawings.primitives import Drawing
from eider.drawings.symbol_drawing import symbol_drawing
from eider.errors import EiderError
from eider.evidence.address_table import evidence_coverage, evidenced_values
from eider.evidence.value_evidence import datasheet_names, evidence_words
from eider.exchange.svg_drawings import svg_text
from eider.model.bundle import Bundle
from eider.model.finding import Finding
from eider.model.wording import counted
from eider.packages.orientation import terminals_on
from eider.reports.cut_outs import CutOuts, opened_cut_outs
from eider.reports.picture import body_pictures
from eider.rulebooks import Rulebook

# Where the body is seen from: turn and height in degrees.
SIDES = {"top": (0.0, 90.0), "bottom": (0.0, -90.0), "front": (0.0, 0.0), "right": (90.0, 0.0), "back": (180.0, 0.0),
         "left": (270.0, 0.0)}  # fmt: skip
PICTURE = (420, 300)
# Nothing is loaded from anywhere: what the page needs is in it.
_POLICY = "default-src 'none'; img-src data:; style-src 'unsafe-inline'; script-src 'unsafe-inline'"
_STYLE = """
body { font: 14px/1.45 "Noto Sans", sans-serif; color: #1d2a33; background: #faf9f4; max-width: 76rem;
  margin: 1.5rem auto; padding: 0 1.5rem }
h1 { margin: 0; font-size: 1.7rem } h2 { font-size: 1rem; color: #2e7d6b; margin: 2rem 0 .4rem }
header { border-bottom: 2px solid #2e7d6b; padding-bottom: .6rem } .soft { color: #5d686b }
.drawings { display: grid; grid-template-columns: 1fr 1fr; gap: 1rem } figure { margin: 0 }
figcaption { color: #2e7d6b; font-weight: 600 } .drawings svg { width: 100%; height: auto; border: 1px solid #ddd8cd;
  touch-action: none; cursor: grab } .sides { display: grid; grid-template-columns: repeat(3, 1fr); gap: .6rem }
.sides img { width: 100% } table { border-collapse: collapse; width: 100% }
td, th { text-align: left; padding: .25rem .8rem .25rem 0; border-bottom: 1px solid #ddd8cd; vertical-align: middle }
td img { max-height: 2.2rem; max-width: 24rem; display: block } .blocker { color: #b3261e; font-weight: 600 }
@media print { .drawings, .sides { break-inside: avoid } }
"""
# The wheel zooms a drawing about the pointer, dragging moves it, a double click shows all of it again.
_SCRIPT = """
for (const svg of document.querySelectorAll('.drawings svg')) {
  const all = svg.getAttribute('viewBox'); let from = null;
  const box = () => svg.getAttribute('viewBox').split(' ').map(Number);
  const set = (x, y, w, h) => svg.setAttribute('viewBox', [x, y, w, h].join(' '));
  const at = e => { const r = svg.getBoundingClientRect(), [x, y, w, h] = box();
    return [x + (e.clientX - r.left) / r.width * w, y + (e.clientY - r.top) / r.height * h]; };
  svg.addEventListener('wheel', e => { e.preventDefault(); const [px, py] = at(e), [x, y, w, h] = box();
    const f = Math.exp(e.deltaY / 500); set(px - (px - x) * f, py - (py - y) * f, w * f, h * f); }, {passive: false});
  svg.addEventListener('pointerdown', e => { from = at(e); svg.setPointerCapture(e.pointerId); });
  svg.addEventListener('pointermove', e => { if (!from) return; const [px, py] = at(e), [x, y, w, h] = box();
    set(x + from[0] - px, y + from[1] - py, w, h); });
  svg.addEventListener('pointerup', () => { from = null; });
  svg.addEventListener('dblclick', () => svg.setAttribute('viewBox', all));
}
"""


def proof_page(
    bundle: Bundle,
    findings: Sequence[Finding],
    rulebook: Rulebook,
    documents: Mapping[str, Path],
    materials: MaterialTable | None = None,
) -> str:
    """The page; `documents` gives the files of datasheets and of the model by their sum."""
    with opened_cut_outs(documents) as cut_outs:
        body = [
            *_header(bundle, rulebook),
            "<h2>Findings</h2>",
            *_findings(findings),
            "<h2>Drawings (wheel zooms, dragging moves, a double click shows all)</h2>",
            '<div class="drawings">',
            *_drawings(bundle),
            "</div>",
            "<h2>Body on its lands</h2>",
            *_sides(bundle, documents, materials),
            f"<h2>Values: {escape(evidence_coverage(bundle).words)}</h2>",
            *_table(
                ("Value of", "In the part", "In the datasheet", "Evidence", "Confirmed"), _values(bundle, cut_outs)
            ),
            f"<h2>Pins ({len(bundle.symbol.pins)})</h2>",
            *_table(("Number", "Name", "Type", "Group"), _pins(bundle)),
        ]
    head = [
        "<!doctype html>",
        '<html lang="en"><head><meta charset="utf-8">',
        f'<meta http-equiv="Content-Security-Policy" content="{_POLICY}">',
        f"<title>Proof of {escape(bundle.part.name)}</title><style>{_STYLE}</style></head><body>",
    ]
    return "\n".join([*head, *body, f"<script>{_SCRIPT}</script></body></html>", ""])


def _header(bundle: Bundle, rulebook: Rulebook) -> Iterator[str]:
    part, release = bundle.part, bundle.part.release
    state = f"revision {release.revision}, {release.at[:10]}, {release.by}" if release else "draft, not released"
    lines = [state, f"footprint {bundle.footprint.name or 'not made yet'}, level {bundle.footprint.level}, "
             f"rulebook {rulebook.name}", f"made by Eider {__version__}"]  # fmt: skip
    yield f"<header><h1>{escape(part.name)}</h1><div>{escape(part.description or 'no description')}</div>"
    yield f'<div class="soft">{escape("; ".join(lines))}</div>'
    if release:
        yield f"<div>Note: {escape(release.note)}</div>"
    yield "</header>"


def _findings(findings: Sequence[Finding]) -> Iterator[str]:
    if not findings:
        yield "<div>none</div>"
    for finding in findings:
        place = f' <span class="soft">({escape(str(finding.address))})</span>' if finding.address else ""
        yield f'<div><span class="{finding.severity}">{finding.severity}</span>: {escape(finding.message)}{place}</div>'


def _drawings(bundle: Bundle) -> Iterator[str]:
    yield _figure("Symbol", symbol_drawing(bundle.symbol, bundle.part.name))
    try:
        views = package_drawings(bundle.sheet)
        for pattern in bundle.footprint.patterns:
            drawing = pattern_drawing(pattern, terminals_on(bundle.sheet, pattern))
            yield _figure(f"Land pattern, level {pattern.level}", drawing)
        for title, view in zip(("Package, top", "Package, side"), views, strict=False):
            yield _figure(title, view)
    except EiderError as fault:
        yield f"<div>No package drawing: {escape(str(fault))}</div>"


def _figure(title: str, drawing: Drawing) -> str:
    svg = svg_text(drawing, title=title).partition("?>")[2]
    return f"<figure><figcaption>{escape(title)}</figcaption>{svg}</figure>"


def _sides(bundle: Bundle, documents: Mapping[str, Path], materials: MaterialTable | None) -> Iterator[str]:
    cameras = [Camera(turn=turn, height=height, zoom=1.4) for turn, height in SIDES.values()]
    try:
        pictures = body_pictures(bundle, *PICTURE, documents, cameras, materials)
        below = list(SIDES).index("bottom")
        # The board would hide the body there.
        pictures[below] = body_pictures(
            bundle, *PICTURE, documents, cameras[below : below + 1], materials, with_board=False
        )[0]
    except EiderError as fault:
        yield f"<div>{escape(str(fault))}</div>"
        return
    yield '<div class="sides">'
    for side, picture in zip(SIDES, pictures, strict=True):
        yield f"<figure><figcaption>{side}</figcaption>{_image(picture, f'the body from the {side}')}</figure>"
    yield "</div>"


def _image(picture: Image.Image, what: str) -> str:
    stream = io.BytesIO()
    picture.save(stream, "PNG", optimize=True)
    data = base64.b64encode(stream.getvalue()).decode()
    return f'<img alt="{escape(what)}" src="data:image/png;base64,{data}">'


def _values(bundle: Bundle, cut_outs: CutOuts) -> Iterator[tuple[str, ...]]:
    names = datasheet_names(bundle.part)
    for value in evidenced_values(bundle):
        picture = cut_outs.picture(value.evidence or value.former)
        shown = _image(picture, f"{value.name} in the datasheet") if picture is not None else ""
        ticked = value.evidence.confirmed_by if value.evidence else ""
        yield escape(value.name), escape(value.text), shown, escape(evidence_words(value, names)), escape(ticked)


def _pins(bundle: Bundle) -> Iterator[tuple[str, ...]]:
    for pin in bundle.symbol.pins:
        name = f"{pin.name} (active low)" if pin.active_low else pin.name
        yield tuple(map(escape, (pin.number, name, pin.type, pin.group)))


def _table(headings: Sequence[str], rows: Iterable[Sequence[str]]) -> Iterator[str]:
    """A table of cells that are HTML already."""
    yield f"<table><tr>{''.join(f'<th>{heading}</th>' for heading in headings)}</tr>"
    count = 0
    for row in rows:
        count += 1
        yield f"<tr>{''.join(f'<td>{cell}</td>' for cell in row)}</tr>"
    yield f'</table><div class="soft">{counted(count, "row")}</div>'
