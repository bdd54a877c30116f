"""The body: soles, measures, poses, and how far a foot can be set down empty."""
