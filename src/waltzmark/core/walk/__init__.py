"""The walk: counts folded over poses, the trace they leave, and what the body does in it."""
