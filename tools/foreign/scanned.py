"""Prints documents to pictures as a scanner would: askew, blurred a little, noisy, the same every time for one seed.

scanned.py FOLDER PDF...  writes FOLDER/<name>.pdf, whose pages are pictures and nothing else.
"""

import argparse
import random
from pathlib import Path

import numpy as np
import pypdfium2
from PIL import Image, ImageFilter

DPI = 200
# Degrees askew, pixels of blur, levels of grey that paper and ink stray by, quality of the JPEG within the PDF.
ASKEW, BLUR, NOISE, QUALITY = 0.8, 0.6, 9.0, 75


def scan_document(pdf: Path, target: Path, seed: int) -> None:
    """Write a PDF of pictures of another's pages, in grey at 200 dpi."""
    chance = random.Random(f"{seed} {pdf.stem}")  # noise, no secret
    noise = np.random.default_rng(chance.randrange(2**32))
    document = pypdfium2.PdfDocument(str(pdf))
    pages = [_scanned(page, chance, noise) for page in document]
    document.close()
    pages[0].save(target, "PDF", resolution=DPI, save_all=True, append_images=pages[1:], quality=QUALITY)


def _scanned(page: pypdfium2.PdfPage, chance: random.Random, noise: np.random.Generator) -> Image.Image:
    sheet = page.render(scale=DPI / 72).to_pil().convert("L")
    sheet = sheet.rotate(chance.uniform(-ASKEW, ASKEW), Image.Resampling.BICUBIC, fillcolor=255)
    sheet = sheet.filter(ImageFilter.GaussianBlur(BLUR))
    pixels = np.asarray(sheet, dtype=np.float64) * 0.86 + 28
    pixels += noise.normal(0.0, NOISE, pixels.shape)
    return Image.fromarray(np.clip(pixels, 0, 255).astype(np.uint8))


def main() -> None:
    """Scan the documents named on the command line."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("folder", type=Path)
    parser.add_argument("documents", type=Path, nargs="+")
    parser.add_argument("--seed", type=int, default=1)
    asked = parser.parse_args()
    asked.folder.mkdir(parents=True, exist_ok=True)
    for document in asked.documents:
        scan_document(document, asked.folder / document.name, asked.seed)


if __name__ == "__main__":
    main()
