"""What the pen wrote, freed from what is no writing, and how much of it a letter can be."""
