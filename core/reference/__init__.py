"""Every reference value and threshold: number, unit, population, source. Rules that use them live elsewhere."""
