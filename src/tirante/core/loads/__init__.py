"""What a car puts into its suspension: load cases, wheel loads, bump stops."""
