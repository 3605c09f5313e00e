"""In the air: the flight clock that calls the pilot back, and what to do when something goes wrong."""
