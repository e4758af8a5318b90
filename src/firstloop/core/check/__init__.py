"""Judging written letters: correspondence first, then one module a heading."""
