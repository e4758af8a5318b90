"""Finding the letters of a word in its ink."""
