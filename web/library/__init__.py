"""The clinic's catalogue of tasks: shipped ones, its own, what it hides. Programs take from here."""
