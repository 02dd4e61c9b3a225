"""Groups of learners: by initials, with what they have been shown, their roles, and the benches they are split into."""
