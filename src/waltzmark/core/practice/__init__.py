"""Practising a form: drills, recall, the weight on scales, how far turns come round, and what to do next."""
