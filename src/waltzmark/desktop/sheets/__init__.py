"""Sheets: what was worked out as pages for paper and files for others."""
