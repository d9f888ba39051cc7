"""What a user saves (`model`), the catalogue rows it is built from (`catalogue`), and everything worked out of it (`evaluate`)."""
