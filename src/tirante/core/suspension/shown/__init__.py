"""What a page asks of a suspension end: measures in words, views, plots, the scene, points as files."""
