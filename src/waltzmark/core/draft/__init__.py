"""From what was said to a score: plain instructions read, and drafted as counts."""
