"""Waltzmark: plot, walk and check a tai chi form."""

__version__ = "1.0.0"
