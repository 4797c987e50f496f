"""Sheets of paper from HTML, with the product's own fonts and nothing from anywhere else.

Loading it takes seconds: `web/papers/print/pdf.py` does so when the first sheet is asked for.
"""

import io
import re
from pathlib import Path
from typing import Any

from weasyprint import HTML, Document
from weasyprint.urls import URLFetcher, URLFetcherResponse

FONTS = Path(__file__).parents[1] / "design" / "static" / "generated" / "fonts"
_SCHEME = "reed-font:"
_WAYS_IN = re.compile(r' href="/[^"]*"')
"""Links of a drawing to pages of the record: they stay on the screen."""
_LETTERS = "Read, ReadExt, DejaVu Sans"


class OwnFonts(URLFetcher):
    """Gives the fonts of the product by name, and refuses every other address: no text of a record can make the
    server open one."""

    def fetch(self, url: str, headers: Any = None) -> URLFetcherResponse:
        name = url.removeprefix(_SCHEME)
        if not url.startswith(_SCHEME) or name not in {path.name for path in FONTS.glob("*.woff2")}:
            raise ValueError(f"not a font of the product: {url[:60]}")
        return URLFetcherResponse(
            url, io.BytesIO((FONTS / name).read_bytes()), {"Content-Type": "font/woff2"}
        )


def laid_out(html: str) -> Document:
    """The page on its sheets of paper."""
    # no style sheet reaches into a drawing here: what it is lettered in stands on it
    drawn = html.replace('class="drawing ', f'font-family="{_LETTERS}" class="drawing ')
    drawn = _WAYS_IN.sub("", drawn)
    return HTML(string=drawn, url_fetcher=OwnFonts(), base_url=None).render(pdf_tags=True)
