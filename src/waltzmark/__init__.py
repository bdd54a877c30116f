"""Waltzmark: plot, walk and check a tai chi form."""

__version__ = "0.1.0"
