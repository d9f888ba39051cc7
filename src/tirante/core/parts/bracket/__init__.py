"""What holds a joint."""
