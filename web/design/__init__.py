"""Base page, components, drawings (SVG), styles, shared scripts, fonts, words for errors."""
