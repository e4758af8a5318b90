"""Pages that come back: found in a picture, known by their code, straightened to the millimetre."""
