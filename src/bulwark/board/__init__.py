"""The plan board: a lesson fitted into its period, minute by minute, and what would make it fit."""
