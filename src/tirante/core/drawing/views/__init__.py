"""What is drawn of a part: the link, its tab, its jig."""
