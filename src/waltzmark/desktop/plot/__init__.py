"""The Plot stage: the score, the floor it is walked on, and what is found."""
