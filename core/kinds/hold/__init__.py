"""One held note."""
