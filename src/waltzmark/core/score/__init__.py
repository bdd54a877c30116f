"""The score: what is written. Reading and writing round-trip exactly."""

from waltzmark.core.score.actions import Count
from waltzmark.core.score.read import read_count, read_score
from waltzmark.core.score.write import write_count, write_score

__all__ = ["Count", "read_count", "read_score", "write_count", "write_score"]
