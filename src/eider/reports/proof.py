"""The proof: everything about one revision of a part, for the reviewer; the first page has all but the evidence."""

import io
from collections.abc import Collection, Mapping, Sequence
from pathlib import Path

from reportlab.lib.colors import HexColor
from reportlab.lib.pagesizes import A4
from reportlab.lib.units import mm
from reportlab.lib.utils import ImageReader
from reportlab.pdfgen.canvas import Canvas

from eider import __version__
from eider.bodies.solids.materials import MaterialTable
from eider.drawings.finding_balloons import with_balloons
from eider.drawings.land_drawing import pattern_drawing
from eider.drawings.overlaid_drawings import is_same_drawing, with_former
from eider.drawings.package_drawing import package_drawings
from eider.drawings.pinout_drawing import pinout_drawing, place_words
from eider.drawings.primitives import Drawing
from eider.drawings.role_styles import palette
from eider.drawings.symbol_drawing import symbol_drawing
from eider.errors import EiderError
from eider.exchange.pdf_drawings import BOLD, FONT, cut_text, load_fonts, paint
from eider.library.atomic_files import write_atomic
from eider.library.item_paths import safe_name
from eider.model.address import DimensionAddress
from eider.model.bundle import Bundle
from eider.model.finding import Finding
from eider.model.wording import counted
from eider.packages.orientation import terminals_on
from eider.reports.picture import body_picture
from eider.reports.proof_changes import FormerTexts, ProofChanges, former_texts
from eider.reports.proof_values import draw_mark, draw_values
from eider.rulebooks import Rulebook

WIDTH, HEIGHT = A4
MARGIN = 12 * mm
LINE = 9.2
EMPTY = Drawing((), (0.0, 0.0, 0.0, 0.0))


def write_proof(
    bundle: Bundle,
    findings: Sequence[Finding],
    rulebook: Rulebook,
    folder: Path,
    documents: Mapping[str, Path] | None = None,
    materials: MaterialTable | None = None,
    changes: ProofChanges | None = None,
) -> Path:
    """Write the proof of a part into a folder.

    `documents` gives the files of its datasheets by their sum, `materials` are those of its library. What is in
    `changes` is marked.
    """
    path = folder / f"{safe_name(bundle.part.name)}-proof.pdf"
    write_atomic(path, proof_pdf(bundle, findings, rulebook, documents or {}, materials, changes))
    return path


def proof_pdf(
    bundle: Bundle,
    findings: Sequence[Finding],
    rulebook: Rulebook,
    documents: Mapping[str, Path],
    materials: MaterialTable | None = None,
    changes: ProofChanges | None = None,
) -> bytes:
    """The PDF of the proof: a page with everything, the values with their places, the pinout, and what changed."""
    load_fonts()
    former = former_texts(changes, bundle)
    buffer = io.BytesIO()
    canvas = Canvas(buffer, pagesize=A4, invariant=1)
    canvas.setTitle(f"Proof of {bundle.part.name}")
    canvas.setCreator(f"Eider {__version__}")
    canvas.setFillColor(HexColor(palette()["paper"]))
    canvas.rect(0, 0, WIDTH, HEIGHT, stroke=0, fill=1)
    _header(canvas, bundle, rulebook, changes)
    middle, top = WIDTH / 2, HEIGHT - MARGIN - 22 * mm
    frame = _drawings(canvas, bundle, findings, top, changes)
    if frame is not None:
        _body(canvas, bundle, frame, documents, materials)
    bottom = top - 180 * mm
    _pins(canvas, bundle, (MARGIN, bottom), former)
    _facts(canvas, bundle, (middle - 18 * mm, bottom), former)
    _findings(canvas, findings, (middle + 42 * mm, bottom))
    canvas.showPage()
    draw_values(canvas, bundle, documents, former.values)
    _pinout(canvas, bundle)
    if changes is not None:
        _all_changes(canvas, bundle, changes)
    canvas.save()
    return buffer.getvalue()


def _pinout(canvas: Canvas, bundle: Bundle) -> None:
    """A last page with the pinout, to be held beside the datasheet's, and the place of each pin in words."""
    if not bundle.symbol.pins:
        return
    try:
        drawing, places = pinout_drawing(bundle), place_words(bundle)
    except EiderError:
        # The first page says why there is no package drawing.
        return
    top, low = HEIGHT - MARGIN, HEIGHT - MARGIN - 150 * mm
    _framed(canvas, f"Pinout of {bundle.part.name}, top", drawing, (MARGIN, low, WIDTH - MARGIN, top - 6 * mm))
    canvas.setFont(FONT, 7)
    canvas.setFillColor(HexColor(palette()["ink"]))
    rows = int((low - MARGIN - 8 * mm) // 9)
    for index, pin in enumerate(bundle.symbol.pins[: 3 * rows]):
        x, y = MARGIN + (index // rows) * (WIDTH - 2 * MARGIN) / 3, low - 8 * mm - (index % rows) * 9
        canvas.drawString(x, y, cut_text(f"{pin.number} {pin.drawn}: {places.get(pin.number, '')}", 165, 7))
    if len(bundle.symbol.pins) > 3 * rows:
        more = len(bundle.symbol.pins) - 3 * rows
        canvas.drawString(
            MARGIN, MARGIN, f"and {counted(more, 'more pin')}; all are in the pin table and on the drawing"
        )


def _all_changes(canvas: Canvas, bundle: Bundle, changes: ProofChanges) -> None:
    """Pages with every difference in words, removed ones among them."""
    per_page = int((HEIGHT - 2 * MARGIN - 40) / LINE)
    for start in range(0, max(len(changes.words), 1), per_page):
        canvas.showPage()
        canvas.setFillColor(HexColor(palette()["ink"]))
        canvas.setFont(BOLD, 12)
        canvas.drawString(MARGIN, HEIGHT - MARGIN - 10, f"{bundle.part.name}: changed since {changes.called}")
        canvas.setFont(FONT, 7.5)
        for index, text in enumerate(changes.words[start : start + per_page] or ("nothing",)):
            y = HEIGHT - MARGIN - 30 - index * LINE
            canvas.drawString(MARGIN, y, cut_text(text, WIDTH - 2 * MARGIN, 7.5))


def _header(canvas: Canvas, bundle: Bundle, rulebook: Rulebook, changes: ProofChanges | None) -> None:
    part, top = bundle.part, HEIGHT - MARGIN
    canvas.setFillColor(HexColor(palette()["ink"]))
    canvas.setFont(BOLD, 17)
    canvas.drawString(MARGIN, top - 13, part.name)
    canvas.setFont(FONT, 8.5)
    canvas.drawString(MARGIN, top - 26, cut_text(part.description or "no description", 330, 8.5))
    release = part.release
    state = f"revision {release.revision}, {release.at[:10]}, {release.by}" if release else "draft, not released"
    if changes is not None:
        state = f"begun from {changes.called}, not released"
    lines = [state, f"footprint {bundle.footprint.name}", f"level {bundle.footprint.level}, rulebook {rulebook.name}"]
    for index, text in enumerate(lines):
        canvas.drawRightString(WIDTH - MARGIN, top - 10 - index * 11, text)
    if changes is not None:
        count = counted(len(changes.words), "change")
        told = f"{count} since {changes.called}: a bar marks them, dashed is what was there"
        canvas.setFillColor(HexColor(palette()["accent"]))
        canvas.drawString(MARGIN, top - 38, told)
        draw_mark(canvas, MARGIN, top - 40, 9)
    elif release:
        canvas.drawString(MARGIN, top - 38, cut_text(f"Note: {release.note}", 330, 8.5))
    canvas.setStrokeColor(HexColor(palette()["accent"]))
    canvas.setLineWidth(1.5)
    canvas.line(MARGIN, top - 46, WIDTH - MARGIN, top - 46)


def _drawings(
    canvas: Canvas, bundle: Bundle, findings: Sequence[Finding], top: float, changes: ProofChanges | None
) -> tuple[float, float, float, float] | None:
    """Symbol and lands above, package views below; the frame for the body, None while the sheet is not complete."""
    middle, low, bottom = WIDTH / 2, top - 80 * mm, top - 172 * mm
    right = WIDTH - MARGIN
    drawn, fault = _proof_drawings(bundle)
    before = _proof_drawings(changes.before)[0] if changes else {}

    def framed(title: str, frame: tuple[float, float, float, float], *, balloons: bool = False) -> None:
        drawing, is_marked = drawn[title], bool(changes) and not is_same_drawing(drawn[title], before.get(title, EMPTY))
        shown = with_former(drawing, before[title]) if is_marked and title in before else drawing
        _framed(canvas, title, with_balloons(shown, findings) if balloons else shown, frame, is_marked=is_marked)

    framed("Symbol", (MARGIN, low, middle - 22 * mm, top), balloons=True)
    if fault is not None:
        _note(canvas, f"No package drawing: {fault}", (MARGIN, low - 20))
        return None
    if "Land pattern" in drawn:
        framed("Land pattern", (middle - 19 * mm, low, right, top), balloons=True)
    half, side_low = MARGIN + 0.52 * (right - MARGIN), low - 44 * mm
    framed("Package, top", (MARGIN, bottom, half, low - 7 * mm))
    framed("Package, side", (half, side_low, right, low - 7 * mm))
    return half + 8 * mm, bottom, right - 8 * mm, side_low - 5 * mm


def _proof_drawings(bundle: Bundle) -> tuple[dict[str, Drawing], EiderError | None]:
    """The drawings of the first page by their titles, and why those of the package are not among them, if so."""
    symbol, pattern = {"Symbol": symbol_drawing(bundle.symbol, bundle.part.name)}, bundle.footprint.pattern
    try:
        top, side, *_ = package_drawings(bundle.sheet)
        lands = {"Land pattern": pattern_drawing(pattern, terminals_on(bundle.sheet, pattern))} if pattern else {}
    except EiderError as fault:
        return symbol, fault
    return {**symbol, **lands, "Package, top": top, "Package, side": side}, None


def _body(
    canvas: Canvas,
    bundle: Bundle,
    frame: tuple[float, float, float, float],
    documents: Mapping[str, Path],
    materials: MaterialTable | None,
) -> None:
    """The picture of the body, or why there is none."""
    _caption(canvas, "Body on its lands", frame)
    try:
        size = 3 * round(frame[2] - frame[0]), 3 * round(frame[3] - frame[1])
        picture = body_picture(bundle, *size, documents, materials)
    except EiderError as fault:
        _note(canvas, str(fault), (frame[0], frame[3] - 20))
        return
    canvas.drawImage(ImageReader(picture), frame[0], frame[1], frame[2] - frame[0], frame[3] - frame[1])


def _framed(
    canvas: Canvas, title: str, drawing: Drawing, frame: tuple[float, float, float, float], *, is_marked: bool = False
) -> None:
    _caption(canvas, f"{title}, changed" if is_marked else title, frame)
    if is_marked:
        draw_mark(canvas, frame[0], frame[3] + 2, 8)
    paint(canvas, drawing, frame)


def _caption(canvas: Canvas, title: str, frame: tuple[float, float, float, float]) -> None:
    canvas.setFillColor(HexColor(palette()["accent"]))
    canvas.setFont(BOLD, 8)
    canvas.drawString(frame[0], frame[3] + 3, title)


def _note(canvas: Canvas, text: str, at: tuple[float, float]) -> None:
    canvas.setFillColor(HexColor(palette()["ink"]))
    canvas.setFont(FONT, 7)
    canvas.drawString(at[0], at[1], cut_text(text, WIDTH - at[0] - MARGIN, 7))


def _table(
    canvas: Canvas,
    title: str,
    rows: Sequence[Sequence[str]],
    at: tuple[float, float],
    columns: Sequence[float],
    changed: Collection[str] = (),
) -> None:
    """Rows of texts under a title; what does not fit on the page is counted, not dropped silently.

    Rows whose first text is among `changed` are marked.
    """
    x, y = at
    _caption(canvas, title, (x, y, x, y))
    room = int((y - MARGIN - LINE) / LINE)
    shown = rows if len(rows) <= room else rows[: room - 1]
    canvas.setFont(FONT, 6.8)
    canvas.setFillColor(HexColor(palette()["ink"]))
    for index, row in enumerate(shown, start=1):
        left = x
        if row[0] and row[0] in changed:
            draw_mark(canvas, x, y - index * LINE - 1.5, LINE - 1.5)
        for text, width in zip(row, columns, strict=True):
            canvas.drawString(left, y - index * LINE, cut_text(text, width - 3, 6.8))
            left += width
    if len(shown) < len(rows):
        canvas.drawString(x, y - (len(shown) + 1) * LINE, f"and {len(rows) - len(shown)} more, in the exported tables")


def _pins(canvas: Canvas, bundle: Bundle, at: tuple[float, float], former: FormerTexts) -> None:
    rows = [(p.number, p.name + (" (active low)" if p.active_low else ""), p.type) for p in bundle.symbol.pins]
    _table(canvas, f"Pins ({len(rows)})", rows, at, (22, 92, 90), former.pins)


def _facts(canvas: Canvas, bundle: Bundle, at: tuple[float, float], former: FormerTexts) -> None:
    rows = [(name, fact.value) for name, fact in bundle.part.facts.items()]
    dims = {DimensionAddress(k): (f"{k} {d.text}", _source(d)) for k, d in bundle.sheet.dims.items()}
    changed = {*former.facts, *(row[0] for address, row in dims.items() if address in former.values)}
    title = f"Facts ({len(rows)}) and dimensions ({len(dims)})"
    _table(canvas, title, [*rows, ("", ""), *dims.values()], at, (84, 86), changed)


def _source(dimension: object) -> str:
    evidence = getattr(dimension, "evidence", None)
    if evidence is None:
        return "no evidence"
    page = f", page {evidence.page}" if evidence.page else ""
    return f"{evidence.kind}{page}"


def _findings(canvas: Canvas, findings: Sequence[Finding], at: tuple[float, float]) -> None:
    rows = [(str(i), str(f.severity), f.message) for i, f in enumerate(findings, start=1)]
    _table(canvas, f"Findings ({len(rows)})", rows or [("", "none", "")], at, (12, 34, 100))
