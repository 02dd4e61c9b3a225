"""Long work done beside the server: papers to be set, files to be taken in."""
