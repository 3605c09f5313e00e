"""What is wrong with a file, in words for the user."""


class BadFileError(ValueError):
    """A file that is not what it should be. `allowed` says what is; `given` what was found instead."""

    def __init__(self, given: str, allowed: str) -> None:
        super().__init__(f"given {given}; allowed: {allowed}")
        self.given, self.allowed = given, allowed
