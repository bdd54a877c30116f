"""The Words stage: a text on one side, the counts it is drafted as on the other."""
