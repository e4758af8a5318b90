"""The job itself: pure functions and frozen values over numpy arrays."""
