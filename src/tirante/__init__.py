"""Tirante: from chosen suspension pivots to buildable links, tabs and jigs."""

__version__ = "0.1.0"
ENGINE_VERSION = "17"  # raised whenever a figure may change: a test holds it to the figures of the demo jobs
