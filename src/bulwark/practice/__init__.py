"""Practice: puzzles from a group's own recipe, on the screen, on phones and on paper, and what was learnt."""
