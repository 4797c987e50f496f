"""Commands of the terminal that run inside the environment; they print what the core gives."""
