"""What goes over the wire: bodies of requests and answers, as pydantic models."""
