"""What the server is made of beside its resources: doors, gate, bodies, errors, and work done elsewhere."""
