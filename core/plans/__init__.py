"""From baseline to program: pitch schools, rungs, steps. Nothing about storage or pages lives here."""
