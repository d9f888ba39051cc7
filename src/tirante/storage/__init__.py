"""MariaDB through a small pool and plain SQL with bound parameters; one module per aggregate.

Public: `pool.Database`, `migrate.migrate`, the functions of `jobs`, `revisions` and `catalogue`. Functions take an open
connection and leave the transaction to the caller; times are UTC arguments.
"""
