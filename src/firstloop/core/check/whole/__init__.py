"""Rows, words and lines as a whole."""
