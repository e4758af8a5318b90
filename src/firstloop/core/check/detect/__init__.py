"""What is outside its tolerance, one module a kind of fault."""
