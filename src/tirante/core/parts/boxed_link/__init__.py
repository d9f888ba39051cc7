"""Links of four plates."""
