"""Gauges that speak plain lines on loopback, and simulated ones that ship with it.

A client connects, sends `READ`, and is answered a line a figure, `name value unit`, then `END`. Names are lower case; a value has a point and no
exponent; units are mm, in, deg, rad, kg, lb. A real gauge would speak the same. Common practice, no source: it is this program's own.
"""
