"""Notes, Hz, cents, voice groups and the comfortable range. Nothing about tasks or sound lives here."""
