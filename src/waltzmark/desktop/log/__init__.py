"""The Log stage: the practice book, its measures over time, and what to do next."""
