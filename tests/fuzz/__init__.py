"""Hostile input for every address, thrown at the application in this process. Nothing it is sent may end in a 500."""
