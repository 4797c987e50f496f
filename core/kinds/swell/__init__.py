"""Soft, louder, soft on one held note."""
