"""Groups of learners: who they are by initials, what they have been shown, their roles, and benches they are split into."""
