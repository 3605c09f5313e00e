"""After the flight: gear that comes in from the cold, what a track says, what the logbook teaches."""
