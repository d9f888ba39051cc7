"""What a check is, what it comes to, how it is shown, and in which order things fail."""
