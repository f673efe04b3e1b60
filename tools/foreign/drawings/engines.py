"""Marks to a PDF by programs of others: a browser, a page-setting library, groff's pic, LaTeX, Ghostscript."""

import shutil
import subprocess
from collections.abc import Callable, Sequence
from pathlib import Path

from drawn_marks import Mark

PAGE = (595.0, 842.0)


def _run(command: Sequence[str], folder: Path, text: str | None = None) -> None:
    subprocess.run(command, cwd=folder, input=text, text=True, check=True, capture_output=True, timeout=120)


def _svg(marks: Sequence[Mark], lines: Sequence[str]) -> str:
    out = []
    for m in marks:
        (x, y), high = m.points[0], PAGE[1]
        if m.kind in ("line", "area"):
            points = " ".join(f"{px:.2f},{high - py:.2f}" for px, py in m.points)
            filled = f'fill="rgb({m.shade:.0%},{m.shade:.0%},{m.shade:.0%})"'
            paint = f'fill="none" stroke="black" stroke-width="{m.width}"' if m.kind == "line" else filled
            out.append(f'<{"polyline" if m.kind == "line" else "polygon"} points="{points}" {paint}/>')
        elif m.kind in ("circle", "disc"):
            paint = f'fill="none" stroke="black" stroke-width="{m.width}"' if m.kind == "circle" else 'fill="black"'
            out.append(f'<circle cx="{x:.2f}" cy="{high - y:.2f}" r="{m.radius:.2f}" {paint}/>')
        else:
            turn = f' transform="rotate(-90 {x:.2f} {high - y:.2f})"' if m.turned else ""
            out.append(
                f'<text x="{x:.2f}" y="{high - y + 0.35 * m.size:.2f}" font-size="{m.size}" text-anchor="middle" '
                f'font-family="Helvetica, Arial, sans-serif"{turn}>{m.text}</text>'
            )
    heads = "".join(f'<text x="60" y="{60 + 14 * i}" font-size="10">{t}</text>' for i, t in enumerate(lines))
    return (
        "<html><style>@page{size:595pt 842pt;margin:0}body{margin:0}svg{display:block}</style><body>"
        '<svg xmlns="http://www.w3.org/2000/svg" width="595pt" height="841pt" viewBox="0 0 595 841">'
        f"{heads}{''.join(out)}</svg></body></html>"
    )


def browser(marks: Sequence[Mark], lines: Sequence[str], path: Path) -> None:
    """A browser prints SVG."""
    page = path.with_suffix(".html")
    page.write_text(_svg(marks, lines), encoding="utf-8")
    flags = ["--headless", "--no-sandbox", "--disable-gpu", "--no-pdf-header-footer", f"--print-to-pdf={path}"]
    _run(["chromium", *flags, str(page)], path.parent)


def layout(marks: Sequence[Mark], lines: Sequence[str], path: Path) -> None:
    """A page-setting library sets SVG."""
    from weasyprint import HTML

    HTML(string=_svg(marks, lines)).write_pdf(path)


def postscript(marks: Sequence[Mark], lines: Sequence[str], path: Path) -> None:
    """Ghostscript distils PostScript."""
    latin = "/Helvetica findfont dup length dict begin {def} forall /Encoding ISOLatin1Encoding def currentdict end"
    out = ["%!PS", f"/Latin {latin} definefont pop /Latin findfont 10 scalefont setfont"]
    out += [f"60 {780 - 14 * i} moveto ({t}) show" for i, t in enumerate(lines)]
    for m in marks:
        x, y = m.points[0]
        if m.kind in ("line", "area"):
            out.append(f"newpath {x:.2f} {y:.2f} moveto")
            out += [f"{px:.2f} {py:.2f} lineto" for px, py in m.points[1:]]
            filled = f"closepath {m.shade} setgray fill 0 setgray"
            out.append(f"{m.width} setlinewidth stroke" if m.kind == "line" else filled)
        elif m.kind in ("circle", "disc"):
            end = f"{m.width} setlinewidth stroke" if m.kind == "circle" else "fill"
            out.append(f"newpath {x:.2f} {y:.2f} {m.radius:.2f} 0 360 arc {end}")
        else:
            text = m.text.replace("±", "\\261").replace("(", "\\(").replace(")", "\\)")
            turn = "90 rotate" if m.turned else ""
            out.append(
                f"/Latin findfont {m.size} scalefont setfont gsave {x:.2f} {y:.2f} translate {turn} "
                f"({text}) dup stringwidth pop 2 div neg {-0.35 * m.size:.2f} moveto show grestore"
            )
    source = path.with_suffix(".ps")
    source.write_text("\n".join([*out, "showpage"]), encoding="latin-1")
    _run(["gs", "-q", "-dNOPAUSE", "-dBATCH", "-sDEVICE=pdfwrite", f"-sOutputFile={path}", str(source)], path.parent)


def _round(x: float, y: float, r: float) -> str:
    """A circle of four curves, as PDF's operators."""
    k = 0.5523 * r
    corners = [
        (x + r, y + k, x + k, y + r, x, y + r),
        (x - k, y + r, x - r, y + k, x - r, y),
        (x - r, y - k, x - k, y - r, x, y - r),
        (x + k, y - r, x + r, y - k, x + r, y),
    ]
    return f"{x + r:.2f} {y:.2f} m " + " ".join(" ".join(f"{v:.2f}" for v in c) + " c" for c in corners)


def tex(marks: Sequence[Mark], lines: Sequence[str], path: Path) -> None:
    """LaTeX's picture for texts and circles, with lines as literal strokes of the whole drawing in one path each."""
    out = [
        r"\documentclass{article}\usepackage{graphicx,helvet}\renewcommand\familydefault{\sfdefault}",
        r"\usepackage[paperwidth=595bp,paperheight=842bp,margin=0bp]{geometry}\pagestyle{empty}\parindent0pt",
        r"\usepackage[utf8]{inputenc}\setlength\unitlength{1bp}\begin{document}\topskip0pt\begin{picture}(595,800)(0,42)",
    ]
    out += [rf"\put(60,{780 - 14 * i}){{{t}}}" for i, t in enumerate(lines)]
    for m in marks:
        (x, y), rest = m.points[0], " ".join(f"{px:.2f} {py:.2f} l" for px, py in m.points[1:])
        if m.kind in ("line", "area"):
            ends = "S" if m.kind == "line" else "f"
            out.append(rf"\put(0,0){{\pdfliteral{{q {m.shade} g {m.width} w {x:.2f} {y:.2f} m {rest} {ends} Q}}}}")
        elif m.kind in ("circle", "disc"):
            ends = "S" if m.kind == "circle" else "f"
            out.append(rf"\put(0,0){{\pdfliteral{{q {m.width} w {_round(x, y, m.radius)} {ends} Q}}}}")
        else:
            text = m.text.replace("±", r"$\pm$")
            text = rf"\fontsize{{{m.size}bp}}{{{m.size}bp}}\selectfont {text}"
            text = rf"\rotatebox{{90}}{{{text}}}" if m.turned else text
            out.append(rf"\put({x:.2f},{y:.2f}){{\makebox(0,0){{{text}}}}}")
    source = path.with_suffix(".tex")
    source.write_text("\n".join([*out, r"\end{picture}\end{document}"]), encoding="utf-8")
    _run(["pdflatex", "-interaction=batchmode", source.name], path.parent)


def pic(marks: Sequence[Mark], lines: Sequence[str], path: Path) -> None:
    """Troff's pic, through groff and Ghostscript."""
    out = [".PS", "scale = 72", "box invis wid 480 ht 700 at (300,400)"]
    out += [f'"{t}" ljust at (60,{740 - 14 * i})' for i, t in enumerate(lines)]
    for m in marks:
        x, y = m.points[0]
        if m.kind == "line":
            out.append(f"line from ({x:.2f},{y:.2f})" + "".join(f" to ({a:.2f},{b:.2f})" for a, b in m.points[1:]))
            out[-1] += f" thickness {m.width}"
        elif m.kind == "area":
            closed = [*m.points[1:], m.points[0]]
            out.append(
                f"line from ({x:.2f},{y:.2f})"
                + "".join(f" to ({a:.2f},{b:.2f})" for a, b in closed)
                + f" fill {1 - m.shade}"
            )
        elif m.kind in ("circle", "disc"):
            out.append(f"circle rad {m.radius:.2f} at ({x:.2f},{y:.2f})" + (" fill 1" if m.kind == "disc" else ""))
        else:
            text = m.text.replace("±", r"\(+-")
            out.append(f'"\\s[{m.size:.0f}]{text}\\s0" {"aligned " if m.turned else ""}at ({x:.2f},{y:.2f})')
    source = "\n".join([".ft H", *out, ".PE", ""])
    made = subprocess.run(["groff", "-p", "-Tps"], cwd=path.parent, input=source, text=True, check=True,
                          capture_output=True, encoding="latin-1", timeout=60)  # fmt: skip
    paper = path.with_suffix(".ps")
    paper.write_text(made.stdout, encoding="latin-1")
    _run(["gs", "-q", "-dNOPAUSE", "-dBATCH", "-sDEVICE=pdfwrite", f"-sOutputFile={path}", str(paper)], path.parent)


ENGINES: dict[str, tuple[str, Callable[[Sequence[Mark], Sequence[str], Path], None]]] = {
    "browser": ("chromium", browser),
    "layout": ("", layout),
    "postscript": ("gs", postscript),
    "tex": ("pdflatex", tex),
    "pic": ("groff", pic),
}


def available() -> list[str]:
    """The engines that this machine has."""
    return [name for name, (program, _) in ENGINES.items() if not program or shutil.which(program)]
