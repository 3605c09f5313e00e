"""What can go wrong in a service, in words for the user."""


class NotHereError(LookupError):
    """Nothing is kept under that number."""


class NotAllowedError(ValueError):
    """An action that is refused; `key` names the field to correct."""

    def __init__(self, key: str, given: str, allowed: str) -> None:
        super().__init__(f"{key}: {given} given; needs {allowed}")
        self.key, self.given, self.allowed = key, given, allowed
