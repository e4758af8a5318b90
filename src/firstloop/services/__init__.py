"""What the application does, one noun a module.

A service takes and gives plain values and dataclasses, owns the transaction, and decides nothing of
the job: that is the core's. The API, the command line and the demo school all come through here.
"""
