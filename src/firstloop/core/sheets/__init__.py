"""Sheets of paper: a scene in millimetres that every output draws, and the composer that lays it out."""
