"""What a link bolts to: lugs (tabs), the bolt, the weld at their foot, and their outlines."""
