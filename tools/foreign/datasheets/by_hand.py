"""Sets a few datasheets that were written by hand, each in another manner, by programs of others: by_hand.py FOLDER.

They were written after the reader, to look for what the styles of table_styles.py do not have; the tests hold what is
read of them against what stands here.
"""

import shutil
import subprocess
import sys
from collections.abc import Sequence
from pathlib import Path

from engines import print_by_browser, print_by_layout

Row = Sequence[str]
STYLE = (
    "<meta charset='utf-8'><style>body{font-family:'Liberation Sans',Arial;font-size:8.5pt}table{border-collapse:"
    "collapse;font-size:8pt}th,td{padding:2px 8px;text-align:center}.ruled td,.ruled th{border:0.5pt solid #555}"
    ".striped th{background:#234;color:#fff}.striped tr:nth-child(even) td{background:#eef}.two{column-count:2}</style>"
)
PROSE = "The front end reads a pressure sensor at the sea floor and sends what it reads over two wires. " * 11
FRONT_END = (("1", "V<sub>DD</sub>", "P", "Supply voltage, 1.7 V to 5.5 V. Decouple with 100 nF."),
             ("2", "<span style='text-decoration:overline'>RST</span>", "I", "Reset, active low"),
             ("3", "SDA", "I/O", "Serial data"), ("4", "SCL", "I", "Serial clock"), ("5", "GND", "G", "Ground"),
             ("6", "ALERT#", "OD", "Alert output"), ("7", "AIN0<sup>(1)</sup>", "AI", "Analogue input"),
             ("8", "AIN1<sup>(1)</sup>", "AI", "Analogue input"))  # fmt: skip
TWO_PACKAGES = (("A", "0.90", "1.45", "0.80", "1.10"), ("A1", "0.00", "0.15", "0.00", "0.10"),
                ("b", "0.30", "0.50", "0.15", "0.30"), ("D", "2.80", "3.00", "1.80", "2.20"),
                ("E", "2.60", "3.00", "1.80", "2.40"), ("L", "0.30", "0.60", "0.21", "0.41"))  # fmt: skip
TWO_SETS = (("A", "1.35", "1.75", "E", "5.80", "6.20"), ("A1", "0.10", "0.25", "E1", "3.80", "4.00"),
            ("b", "0.31", "0.51", "e", "1.27", "1.27"), ("D", "4.80", "5.00", "L", "0.40", "1.27"))  # fmt: skip
TWO_NUMBERS = (("1", "15", "OUT", "O", "Output"), ("2", "16", "IN1", "I", "First input"),
               ("3", "1", "IN2", "I", "Second"), ("4", "3", "VSS", "P", "Ground"),
               ("5", "7", "SHDN", "I", "Shutdown"))  # fmt: skip
LISTS = (("A0, A1, A2", "1, 2, 3", "I", "Address inputs"), ("GND", "4", "G", "Ground"), ("SDA", "5", "I/O", "Data"),
         ("SCL", "6", "I", "Clock"), ("WP", "7", "I", "Write protect"), ("VCC", "8", "P", "Supply"))  # fmt: skip
UNITS = (("A", "", "", "1.200", "", "", "0.0472"), ("A1", "0.050", "", "0.150", "0.0020", "", "0.0059"),
         ("D<sup>(1)</sup>", "4.900", "5.000", "5.100", "0.1929", "0.1969", "0.2008"),
         ("E", "6.200", "6.400", "6.600", "0.2441", "0.2520", "0.2598"), ("e", "", "0.650", "", "", "0.0256", ""),
         ("L", "0.450", "0.600", "0.750", "0.0177", "0.0236", "0.0295"))  # fmt: skip
BRACKETS = (("A", ".053 (1.35)", ".069 (1.75)"), ("B", ".013 (0.33)", ".020 (0.51)"),
            ("D", ".189 (4.80)", ".197 (5.00)"),
            ("e", ".050 (1.27) BSC", ""), ("H", ".228 (5.80)", ".244 (6.20)"))  # fmt: skip
BOOKTABS = r"""\documentclass[10pt]{article}\usepackage[margin=18mm]{geometry}\usepackage{booktabs,array}
\begin{document}\sffamily\section*{Package outline QFN-20} All dimensions in millimetres.\\[1ex]
\begin{tabular}{lccc}\toprule Symbol & Min. & Nom. & Max.\\ \midrule
$A$ & 0.80 & 0.85 & 0.90\\ $A_1$ & 0.00 & 0.02 & 0.05\\ $A_3$ & \multicolumn{3}{c}{0.20 REF}\\
$b$ & 0.18 & 0.25 & 0.30\\ $D$ & \multicolumn{3}{c}{4.00 BSC}\\ $E$ & \multicolumn{3}{c}{4.00 BSC}\\
$D_2$ & 2.00 & 2.10 & 2.20\\ $e$ & \multicolumn{3}{c}{0.50 BSC}\\ $L$ & 0.35 & 0.40 & 0.45\\ \bottomrule\end{tabular}
\newpage\section*{Pin functions}\begin{tabular}{@{}clp{9cm}@{}}\toprule Pin & Name & Function\\ \midrule
1 & VIN & Power input. Connect a ceramic capacitor of at least 10 uF between this pin and the ground plane, as near as
the layout allows.\\ 2, 3 & GND & Ground\\ 4 & EN & Enable input\\ 5--8 & NC & Not connected\\
9 & $\overline{\mathrm{PG}}$ & Power good, low while the output is right\\ 10 & VOUT & Output\\ \bottomrule
\end{tabular}\end{document}"""


def table(look: str, heads: Sequence[str], rows: Sequence[Row]) -> str:
    """A table in HTML; `heads` are its heading rows as they are written."""
    body = "".join(f"<tr>{''.join(f'<td>{cell}</td>' for cell in row)}</tr>" for row in rows)
    return f"<table class='{look}'>{''.join(f'<tr>{head}</tr>' for head in heads)}{body}</table>"


def heads(*names: str) -> str:
    """Plain headings."""
    return "".join(f"<th>{name}</th>" for name in names)


PAGES: dict[str, str] = {
    "beside-prose": f"<h2>NVK-7100</h2><div class='two'><p>{PROSE}</p>"
    + table("striped", [heads("PIN", "NAME", "TYPE", "DESCRIPTION")], FRONT_END) + "</div>",
    "two-packages": "<h3>Package dimensions (mm)</h3>" + table("ruled", [
        "<th rowspan='2'>Symbol</th><th colspan='2'>SOT-23-5</th><th colspan='2'>SC-70-5</th>",
        heads("Min", "Max", "Min", "Max")], TWO_PACKAGES),
    "two-sets": "<h3>Package dimensions in mm</h3>" + table("ruled", [heads(*("Dim", "Min", "Max") * 2)], TWO_SETS),
    "two-numbers": "<h3>Pin functions</h3>" + table("", [
        "<th colspan='2'>PIN NO.</th><th rowspan='2'>NAME</th><th rowspan='2'>I/O</th><th rowspan='2'>DESCRIPTION</th>",
        heads("SOIC", "QFN")], TWO_NUMBERS),
    "name-lists": "<h3>Pin functions</h3>" + table("ruled", [
        heads("Terminal<br>name", "Terminal<br>no.", "I/O<sup>1</sup>", "Description")], LISTS),
    "units-left": "<h3>Packaging information</h3>" + table("", [
        "<th>Ref</th><th style='text-align:left' colspan='3'>mm</th><th style='text-align:left' colspan='3'>inch</th>",
        heads("", *("Min.", "Typ.", "Max.") * 2)], UNITS),
    "two-units": "<h3>Package dimensions</h3><p>Dimensions in inches (millimeters)</p>"
    + table("ruled", [heads("Dim.", "Min.", "Max.")], BRACKETS),
}  # fmt: skip


def main(folder: Path) -> None:
    """Set every page by two programs, and the one of LaTeX by LaTeX."""
    folder.mkdir(parents=True, exist_ok=True)
    for name, page in PAGES.items():
        print_by_layout(STYLE + page, folder / f"{name}-layout.pdf")
        print_by_browser(STYLE + page, folder / f"{name}-browser.pdf")
    (folder / "booktabs-tex.tex").write_text(BOOKTABS, encoding="utf-8")
    subprocess.run(["pdflatex", "-interaction=batchmode", "booktabs-tex.tex"], cwd=folder, check=True, timeout=120)
    shutil.rmtree(folder / "profile", ignore_errors=True)
    for rest in folder.iterdir():
        if rest.suffix in (".tex", ".aux", ".log", ".html"):
            rest.unlink()


if __name__ == "__main__":
    main(Path(sys.argv[1]).resolve())
