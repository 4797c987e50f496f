"""Words and numbers of figures for people: clinicians, clients and exports.

What a figure is stands in `core/figures`; here is how it is said.
"""
