"""The web's way in: parse, call, answer."""
