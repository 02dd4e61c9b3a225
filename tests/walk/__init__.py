"""The player: takes any recipe through the running program as somebody would who has never seen it."""
