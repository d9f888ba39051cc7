"""The families of brackets, one a file."""
