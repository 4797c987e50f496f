"""A room for every kind of task that is measured from sound: what it listens for, its figures, what
they say, how it is simulated. Kinds do not know each other; everybody else asks the registry.

Beside the rooms: what several kinds share (`sounding`, `held_findings`), and one attempt live and
whole (`live`, `attempt`).
"""
