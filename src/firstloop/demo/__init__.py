"""The demo school: invented children and twelve weeks of simulated ink."""
