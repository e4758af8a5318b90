"""What is remembered: typed tables in SQLite, and the ways to read and change them."""
