"""Every figure that is measured, counted or rated: its code, unit, precision and definition.

A new figure is one entry here (`session.py` or `baseline.py`) and its words in `web/figures/words.py`.
How a figure is measured lives in `core/sound` and `core/kinds`; what it leads to in `core/grading`.
"""
