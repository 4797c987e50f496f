"""Forms as a browser finds them on a page, to be sent back with odd values."""

from dataclasses import dataclass, field
from html.parser import HTMLParser


@dataclass
class HtmlForm:
    """Where it goes, what it holds as it stands, the names of its files."""

    action: str
    method: str
    fields: dict[str, list[str]] = field(default_factory=dict)
    files: list[str] = field(default_factory=list)


class _Reader(HTMLParser):
    def __init__(self) -> None:
        super().__init__()
        self.forms: list[HtmlForm] = []
        self._open: HtmlForm | None = None
        self._select = ""
        self._area = ""

    def handle_starttag(self, tag: str, attrs: list[tuple[str, str | None]]) -> None:
        own = {name: value or "" for name, value in attrs}
        if tag == "form":
            self._open = HtmlForm(own.get("action", ""), own.get("method", "get").lower())
            self.forms.append(self._open)
        if self._open is None:
            return
        name = own.get("name", "")
        if tag == "select":
            self._select = name
            self._open.fields.setdefault(name, [])
        elif tag == "option" and self._select and "selected" in own:
            self._open.fields[self._select].append(own.get("value", ""))
        elif tag == "textarea" and name:
            self._area = name
            self._open.fields[name] = [""]
        elif tag in ("input", "button") and name:
            kind = own.get("type", "text")
            if kind == "file":
                self._open.files.append(name)
            elif kind in ("checkbox", "radio") and "checked" not in own:
                self._open.fields.setdefault(name, [])
            else:
                self._open.fields.setdefault(name, []).append(own.get("value", ""))

    def handle_data(self, data: str) -> None:
        if self._open is not None and self._area:
            self._open.fields[self._area][0] += data

    def handle_endtag(self, tag: str) -> None:
        if tag == "form":
            self._open = None
        elif tag == "select":
            self._select = ""
        elif tag == "textarea":
            self._area = ""


def forms_in(page: str) -> list[HtmlForm]:
    """The forms of a page that send something."""
    reader = _Reader()
    reader.feed(page)
    return [form for form in reader.forms if form.method == "post"]
