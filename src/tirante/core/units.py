"""Exact unit factors, from the international definitions of 1959 (inch, pound) and 1901 (standard gravity), and constants used all over.

A bare float in the core is in mm, N, MPa, N·mm, kg, s or rad; these factors serve the edges only.
"""

from fractions import Fraction

INCH_EXACT = Fraction(254, 10)  # mm, exact by definition
FOOT_EXACT = 12 * INCH_EXACT
INCH = float(INCH_EXACT)
STANDARD_GRAVITY = 9.80665  # m/s^2, exact by definition
POUND = 0.45359237  # kg, exact by definition
POUND_FORCE = POUND * STANDARD_GRAVITY  # N
KSI = 1000 * POUND_FORCE / INCH**2  # MPa
STEEL_DENSITY = 7850e-9  # kg/mm³, of plate and hardware; common value
