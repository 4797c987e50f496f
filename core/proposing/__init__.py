"""From what is known of a client to a whole program: chooses tasks, combines schools, trims to the
minutes there are, fits the dose. How a single target is fitted lives in `core.fitting`."""
