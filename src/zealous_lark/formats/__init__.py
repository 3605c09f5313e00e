"""Open formats: each module reads bytes to the documents' and the core's types, or writes them."""
