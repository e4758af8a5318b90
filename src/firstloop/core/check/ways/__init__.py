"""The way a pen may have gone over ink of which only a picture is left."""
