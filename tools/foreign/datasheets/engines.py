"""Pages with tables as PDF by programs of others: a browser, TeX, troff, an office suite, a page layout over Cairo."""

import html
import re
import shutil
import subprocess
from collections.abc import Callable, Sequence
from pathlib import Path

from table_styles import Cell, Table

BEFORE = "The drawing is not to scale. See the following values."
AFTER = "End of the values. All rights reserved by nobody."


def _grid(table: Table) -> list[list[Cell | None]]:
    """Every place of the table: the cell that begins there, or None where one reaches over it."""
    width = sum(cell.columns for cell in table.rows[0])
    places: list[list[Cell | None]] = [[None] * width for _ in table.rows]
    taken: set[tuple[int, int]] = set()
    for r, row in enumerate(table.rows):
        c = 0
        for cell in row:
            while (r, c) in taken:
                c += 1
            places[r][c] = cell
            taken |= {(r + i, c + j) for i in range(cell.rows) for j in range(cell.columns)}
            c += cell.columns
    return places


def html_page(pages: Sequence[Sequence[Table]], face: str, size: float) -> str:
    """A document of pages with tables, for engines that take HTML."""
    parts = []
    for tables in pages:
        body = []
        for number, table in enumerate(tables, start=1):
            border = "border:0.6pt solid #333" if table.ruled else "border:none"
            look = f"{border};padding:1.5pt 5pt;text-align:center"
            rows = []
            for row in table.rows:
                cells = []
                for cell in row:
                    tag = "th" if cell.head else "td"
                    spans = (f' colspan="{cell.columns}"' if cell.columns > 1 else "") + (
                        f' rowspan="{cell.rows}"' if cell.rows > 1 else ""
                    )
                    # An office suite breaks numbers where a column is narrow.
                    wide = int(size * (0.85 * max(map(len, cell.text.split("\n"))) + 2))
                    text = "<br/>".join(html.escape(line) for line in cell.text.split("\n"))
                    cells.append(f'<{tag}{spans} width="{wide}" style="{look}">{text}</{tag}>')
                rows.append(f"<tr>{''.join(cells)}</tr>")
            body.append(
                f"<p>{BEFORE}</p><p><b>Table {number}. {html.escape(table.caption)}</b></p>"
                f'<table style="border-collapse:collapse">{"".join(rows)}</table><p>{AFTER}</p>'
            )
        parts.append(f'<div style="page-break-after:always">{"".join(body)}</div>')
    style = f"body{{font-family:{face};font-size:{size}pt}} @page{{size:A4;margin:20mm}}"
    return f'<html><head><meta charset="utf-8"><style>{style}</style></head><body>{"".join(parts)}</body></html>'


def browser(pages: Sequence[Sequence[Table]], path: Path, face: str, size: float) -> None:
    """Headless Chromium."""
    print_by_browser(html_page(pages, face, size), path)


def print_by_browser(page: str, path: Path) -> None:
    """A page of HTML through headless Chromium."""
    source = path.with_suffix(".html")
    source.write_text(page, encoding="utf-8")
    flags = ["--headless", "--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run",
             "--no-pdf-header-footer", "--disable-background-networking", "--disable-component-update",
             "--disable-sync", f"--user-data-dir={path.parent}/profile"]  # fmt: skip
    _run(["chromium", *flags, f"--print-to-pdf={path}", source.as_uri()], path.parent)


def office(pages: Sequence[Sequence[Table]], path: Path, face: str, size: float) -> None:
    """LibreOffice Writer, from HTML."""
    source = path.with_suffix(".html")
    source.write_text(html_page(pages, face, size), encoding="utf-8")
    _run(
        [
            "soffice",
            "--headless",
            "--writer",
            "--convert-to",
            "pdf:writer_web_pdf_Export",
            "--outdir",
            str(path.parent),
            str(source),
        ],
        path.parent,
    )


def layout(pages: Sequence[Sequence[Table]], path: Path, face: str, size: float) -> None:
    """WeasyPrint: a layout of its own over Pango."""
    print_by_layout(html_page(pages, face, size), path)


def print_by_layout(page: str, path: Path) -> None:
    """A page of HTML through WeasyPrint."""
    import weasyprint

    weasyprint.HTML(string=page).write_pdf(path)


_TEX = {"&": r"\&", "%": r"\%", "#": r"\#", "_": r"\_", "±": r"$\pm$", "–": "--", "—": "---", "°": r"$^\circ$",
        "θ": r"$\theta$", "~": r"$\sim$", "[": "{[}", "]": "{]}"}  # fmt: skip


def _tex(text: str) -> str:
    return "".join(_TEX.get(c, c) for c in text)


def tex(pages: Sequence[Sequence[Table]], path: Path, face: str, size: float) -> None:
    """pdfLaTeX with tabular."""
    serif = "" if "serif" in face and "sans" not in face else r"\renewcommand{\familydefault}{\sfdefault}"
    lines = [r"\documentclass[a4paper]{article}", r"\usepackage[T1]{fontenc}\usepackage[utf8]{inputenc}",
             r"\usepackage[margin=20mm]{geometry}\pagestyle{empty}\setlength{\parindent}{0pt}", serif,
             r"\begin{document}" + (r"\small" if size > 8 else r"\footnotesize")]  # fmt: skip
    for tables in pages:
        for number, table in enumerate(tables, start=1):
            lines += [BEFORE, "", rf"\medskip\textbf{{Table {number}. {_tex(table.caption)}}}\par\smallskip"]
            lines += [_tabular(table), "", r"\medskip " + AFTER, "", r"\bigskip"]
        lines.append(r"\clearpage")
    lines.append(r"\end{document}")
    source = path.with_suffix(".tex")
    source.write_text("\n".join(lines), encoding="utf-8")
    _run(["pdflatex", "-interaction=batchmode", f"-output-directory={path.parent}", str(source)], path.parent)


def _tabular(table: Table) -> str:
    grid = _grid(table)
    width = len(grid[0])
    bar = "|" if table.ruled else ""
    lines = [rf"\begin{{tabular}}{{{bar}{bar.join('c' * width)}{bar}}}"]
    if table.ruled:
        lines.append(r"\hline")
    for r, row in enumerate(grid):
        cells, c = [], 0
        below = {c for c in range(width) for cell in [row[c]] if cell and cell.rows > 1}
        while c < width:
            cell = row[c]
            if cell is None:
                cells.append("")
                c += 1
                continue
            text = (
                _tex(cell.text)
                if "\n" not in cell.text
                else (r"\begin{tabular}{@{}c@{}}" + r"\\".join(map(_tex, cell.text.split("\n"))) + r"\end{tabular}")
            )
            if cell.columns > 1:
                edge = "|" if bar and c == 0 else ""
                text = rf"\multicolumn{{{cell.columns}}}{{{edge}c{bar}}}{{{text}}}"
            cells.append(text)
            c += cell.columns
        lines.append(" & ".join(cells) + r" \\")
        if table.ruled:
            lines.append(rf"\cline{{{max(below) + 2}-{width}}}" if below and r + 1 < len(grid) else r"\hline")
    lines.append(r"\end{tabular}")
    return "\n".join(lines)


def troff(pages: Sequence[Sequence[Table]], path: Path, _face: str, _size: float) -> None:
    """groff with tbl, through PostScript and Ghostscript."""
    lines = [".ll 17c", ".po 2c", ".nh", ".ad l", ".pl 29.7c"]
    for tables in pages:
        for number, table in enumerate(tables, start=1):
            lines += [BEFORE, ".sp", f"\\fBTable {number}. {table.caption}\\fP", ".br", ".TS"]
            lines += [*_tbl(table), ".TE", ".sp", AFTER, ".sp 2"]
        lines.append(".bp")
    source = path.with_suffix(".roff")
    source.write_text("\n".join(lines) + "\n", encoding="utf-8")
    script = path.with_suffix(".ps")
    with script.open("wb") as out:
        subprocess.run(["groff", "-k", "-t", "-Tps", str(source)], stdout=out, check=True, cwd=path.parent)
    _run(["gs", "-q", "-dBATCH", "-dNOPAUSE", "-sDEVICE=pdfwrite", f"-sOutputFile={path}", str(script)], path.parent)


def _tbl(table: Table) -> list[str]:
    grid = _grid(table)
    width = len(grid[0])
    formats, data = [], []
    covered: dict[int, int] = {}
    for row in grid:
        keys, texts, c = [], [], 0
        while c < width:
            cell = row[c]
            if cell is None:
                keys.append("^" if covered.get(c, 0) > 0 else "c")
                texts.append("")
                covered[c] = covered.get(c, 0) - 1
                c += 1
                continue
            if cell.rows > 1:
                covered[c] = cell.rows - 1
            text = cell.text.replace("\\", "\\e")
            texts.append(text if "\n" not in text else "T{\n.nf\n" + text + "\nT}")
            keys += ["c", *["s"] * (cell.columns - 1)]
            c += cell.columns
        formats.append(" ".join(keys))
        data.append("\t".join(texts))
    options = ["allbox;"] if table.ruled else []
    return [*options, *formats[:-1], formats[-1] + ".", *data]


def _run(command: list[str], folder: Path) -> None:
    subprocess.run(command, check=False, cwd=folder, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL, timeout=180)


ENGINES: dict[str, Callable[[Sequence[Sequence[Table]], Path, str, float], None]] = {
    "browser": browser, "tex": tex, "troff": troff, "office": office, "layout": layout,
}  # fmt: skip


def available() -> list[str]:
    """The engines that this machine has."""
    needs = {"browser": "chromium", "tex": "pdflatex", "troff": "groff", "office": "soffice"}
    return [name for name in ENGINES if name not in needs or shutil.which(needs[name])]


def plain(text: str) -> str:
    """A text without blanks, as two programs may set it."""
    return re.sub(r"\s+", "", text)
