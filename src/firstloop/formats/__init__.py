"""Open file formats, one module each, reading and writing side by side."""
