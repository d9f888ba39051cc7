"""Folded sheet: bends (`bend`), two of them for an offset (`joggle`), and what springs back (`springback`)."""
