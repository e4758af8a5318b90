"""First Loop: models letters, checks how children write them, remembers who needs what."""

__version__ = "0.1.0"
