"""Suspension ends as mechanisms: templates (data), the end a user describes, its measures at every position.

Public: `template.Template`, `end.End`, `cycle.cycle`.
"""
