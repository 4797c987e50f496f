"""Tasks as data, one TOML file a family, and their loader. No rules live here."""
