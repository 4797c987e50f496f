"""Sound in, figures out: reading, the causal kernel, live state, figures of a task, quality.

Nothing about clients, programs or pages lives here. Level: RMS 1.0 of full scale = 0 dBFS.
"""

VERSION = "4"
