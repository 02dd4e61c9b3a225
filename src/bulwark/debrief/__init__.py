"""After the lesson: replayed at the moment it began to go wrong."""
