"""The Return stage: what carries a form away from home, what closes it, and the loops hidden in it."""
