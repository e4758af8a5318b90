"""Weeks of evidence: how a letter stands, what changes, who belongs together, what is due."""
