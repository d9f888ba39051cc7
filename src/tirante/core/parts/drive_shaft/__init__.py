"""Drive shafts, bought whole."""
