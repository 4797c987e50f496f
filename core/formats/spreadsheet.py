"""Words in a table that a spreadsheet opens."""

_FORMULA = ("=", "+", "-", "@", "\t", "\r")


def as_words(cell: str) -> str:
    """Words that a spreadsheet would take for a formula, told as words; all others as they are."""
    return f"'{cell}" if cell.startswith(_FORMULA) else cell
