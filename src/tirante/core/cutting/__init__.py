"""What to buy and saw."""
