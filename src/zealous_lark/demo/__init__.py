"""The demo scenario: an invented pilot, invented aircraft, invented places."""
