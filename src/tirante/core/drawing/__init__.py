"""The neutral drawing: what every station shows and every document prints. Knows no output format."""
