"""What a reader would take the ink for."""
