"""Text in tables that are opened in a spreadsheet."""

_FORMULA = ("=", "+", "-", "@", "\t", "\r")


def as_words(cell: str) -> str:
    """Escape text that a spreadsheet would run as a formula. Other text is unchanged."""
    return f"'{cell}" if cell.startswith(_FORMULA) else cell
