"""What a program is: routines, steps, targets, doses, and the words for them.

How one is fitted to a client lives in `core.fitting`, how a clinician changes one in `core.editing`.
"""
