"""A car measured: readings, the net they make, what does not fit, what to measure next. Methods; they know no part and no page.

Public: `readings` (what can be read), `net` (adjusted), `suspects` (looked at), `slips`, `measure_next`, `ellipse`, `mirrored`.
"""
