"""Whoever takes over the front of a lesson with a code, and no account."""
