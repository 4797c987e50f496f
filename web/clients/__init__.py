"""Clients: intake and screening, baseline, private link and PIN."""
