"""Stand-ins with known truth: voices, practice histories. Nothing here measures."""
