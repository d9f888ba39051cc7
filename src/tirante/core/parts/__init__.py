"""What is made: a folder a kind, each with assembly, checks, pieces, views and notes."""
