"""Every calculation by name: JSON fields in, JSON fields out, with its working and source.

The same topics serve the command line, the screens' "show the working" and scripts. Public: `TOPICS`, `Topic`,
`calculate`. Contract: lengths mm, forces N, stress MPa, angles deg, in the field names.
"""

from tirante.calc.registry import TOPICS, Topic, calculate

__all__ = ["TOPICS", "Topic", "calculate"]
