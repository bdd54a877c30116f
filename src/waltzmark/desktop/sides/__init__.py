"""The Sides stage: do both sides mirror, how does this form compare with another, and how even is it."""
