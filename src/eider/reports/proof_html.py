"""The proof as one HTML file: drawings that zoom, values beside their places in the datasheet, the body's six sides."""

import base64
import io
from collections.abc import Iterator, Mapping, Sequence
from pathlib import Path
from typing import NamedTuple

from jinja2 import Environment, StrictUndefined
from markupsafe import Markup
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
from eider.packaged_data import packaged_text
from eider.packages.orientation import terminals_on
from eider.reports.cut_outs import CutOuts, opened_cut_outs
from eider.reports.picture import body_pictures
from eider.rulebooks import Rulebook

# Where the body is seen from: turn and height in degrees.
SIDES = {"top": (0.0, 90.0), "bottom": (0.0, -90.0), "front": (0.0, 0.0), "right": (90.0, 0.0), "back": (180.0, 0.0),
         "left": (270.0, 0.0)}  # fmt: skip
PICTURE = (420, 300)


class _Picture(NamedTuple):
    """A picture within the page: what it shows, and its PNG in base64."""

    what: str
    data: str


class _Side(NamedTuple):
    title: str
    picture: _Picture


class _Figure(NamedTuple):
    title: str
    svg: Markup


def proof_page(
    bundle: Bundle,
    findings: Sequence[Finding],
    rulebook: Rulebook,
    documents: Mapping[str, Path],
    materials: MaterialTable | None = None,
) -> str:
    """The page; `documents` gives the files of datasheets and of the model by their sum."""
    environment = Environment(autoescape=True, undefined=StrictUndefined, trim_blocks=True, lstrip_blocks=True)
    page = environment.from_string(packaged_text("reports/templates/proof.html"))
    figures, no_drawing = _figures(bundle)
    sides, no_body = _sides(bundle, documents, materials)
    with opened_cut_outs(documents) as cut_outs:
        return page.render(
            part=bundle.part,
            about=_about(bundle, rulebook),
            findings=findings,
            figures=figures,
            no_drawing=no_drawing,
            sides=sides,
            no_body=no_body,
            coverage=evidence_coverage(bundle).words,
            values=list(_values(bundle, cut_outs)),
            pins=list(_pins(bundle)),
            counted=counted,
        )


def _about(bundle: Bundle, rulebook: Rulebook) -> tuple[str, ...]:
    release, footprint = bundle.part.release, bundle.footprint
    return (
        f"revision {release.revision}, {release.at[:10]}, {release.by}" if release else "draft, not released",
        f"footprint {footprint.name or 'not made yet'}, level {footprint.level}, rulebook {rulebook.name}",
        f"made by Eider {__version__}",
    )


def _figures(bundle: Bundle) -> tuple[list[_Figure], str]:
    """The drawings; if the package cannot be drawn, also the reason."""
    found = [_figure("Symbol", symbol_drawing(bundle.symbol, bundle.part.name))]
    try:
        views = package_drawings(bundle.sheet)
        for pattern in bundle.footprint.patterns:
            drawing = pattern_drawing(pattern, terminals_on(bundle.sheet, pattern))
            found.append(_figure(f"Land pattern, level {pattern.level}", drawing))
        titled = zip(("Package, top", "Package, side"), views, strict=False)
        found += [_figure(title, view) for title, view in titled]
    except EiderError as fault:
        return found, str(fault)
    return found, ""


def _figure(title: str, drawing: Drawing) -> _Figure:
    # The SVG is Eider's own, with its texts escaped.
    return _Figure(title, Markup(svg_text(drawing, title=title).partition("?>")[2]))


def _sides(bundle: Bundle, documents: Mapping[str, Path], materials: MaterialTable | None) -> tuple[list[_Side], str]:
    """The body from all sides, and why there is no picture of it."""
    cameras = [Camera(turn=turn, height=height, zoom=1.4) for turn, height in SIDES.values()]
    try:
        pictures = body_pictures(bundle, *PICTURE, documents, cameras, materials)
        below = list(SIDES).index("bottom")
        # The board would hide the body there.
        pictures[below] = body_pictures(
            bundle, *PICTURE, documents, cameras[below : below + 1], materials, with_board=False
        )[0]
    except EiderError as fault:
        return [], str(fault)
    shown = zip(SIDES, pictures, strict=True)
    return [_Side(side, _picture(picture, f"the body from the {side}")) for side, picture in shown], ""


def _picture(picture: Image.Image, what: str) -> _Picture:
    stream = io.BytesIO()
    picture.save(stream, "PNG", optimize=True)
    return _Picture(what, base64.b64encode(stream.getvalue()).decode())


def _values(bundle: Bundle, cut_outs: CutOuts) -> Iterator[tuple[str | _Picture, ...]]:
    names = datasheet_names(bundle.part)
    for value in evidenced_values(bundle):
        picture = cut_outs.picture(value.evidence or value.former)
        shown = _picture(picture, f"{value.name} in the datasheet") if picture is not None else ""
        ticked = value.evidence.confirmed_by if value.evidence else ""
        yield value.name, value.text, shown, evidence_words(value, names), ticked


def _pins(bundle: Bundle) -> Iterator[tuple[str, ...]]:
    for pin in bundle.symbol.pins:
        name = f"{pin.name} (active low)" if pin.active_low else pin.name
        yield pin.number, name, pin.type, pin.group
