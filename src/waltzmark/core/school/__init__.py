"""A school: the geometry of its stances and the limits of its rules, read from TOML files."""
