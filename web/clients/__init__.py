"""Client, screening, baseline, link and PIN. Programs live elsewhere."""
