"""From figures to judgement in draft: session summaries, climbing, what a client needs next."""
