"""The saved model of each kind of part, one file a kind."""
