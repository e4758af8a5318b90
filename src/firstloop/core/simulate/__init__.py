"""Stand-ins for children: a writer that varies as a hand does, and makes named faults of known size."""
