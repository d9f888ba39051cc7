"""Writers of the drawing model (SVG, DXF, PDF) and what is made of them: cards, the cut list, the pack."""
