"""Practice cases: launch decisions drawn by seed from the same world that real ones are judged in."""
