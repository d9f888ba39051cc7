"""Anti-roll bars."""
