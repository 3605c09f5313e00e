"""What the application does: one function for each action of the user."""
