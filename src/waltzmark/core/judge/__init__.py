"""Findings: what is wrong with a walk, where, by how much, why it matters and what would mend it."""
