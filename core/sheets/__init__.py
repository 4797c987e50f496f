"""Practice sheets: a program on paper, what is written into it, the same as CSV. No PDF and no page here."""
