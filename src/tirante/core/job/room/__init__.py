"""The room round a bracket: what comes near it while its end moves, and whether bolt, spanner and torch get there."""
