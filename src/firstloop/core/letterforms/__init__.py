"""Letters as moves, and the house style that shapes them all."""
