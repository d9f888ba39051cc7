"""Tirante: from chosen suspension pivots to buildable links, tabs and jigs."""

__version__ = "0.1.0"
ENGINE_VERSION = "1"
