"""What `tests/web/test_handout.py` and others make and look at."""

import io

import pypdf


def words_of(answer):
    assert answer.status_code == 200, answer.content[:400]
    assert answer["Content-Type"] == "application/pdf"
    reader = pypdf.PdfReader(io.BytesIO(answer.content))
    return " ".join(" ".join(page.extract_text().split()) for page in reader.pages), reader
