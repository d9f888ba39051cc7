"""Rigid bodies held by joints, moved by drivers, solved at many positions at once. Knows no suspension word.

Public: `model` (bodies, marks, constraints), `solve.solve` (positions), `system.System` (residuals and Jacobian).
"""
