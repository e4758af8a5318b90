"""What can go wrong when reading or changing records."""


class StoreError(Exception):
    """Root of the store's errors; the text is fit for a screen."""


class NotFoundError(StoreError):
    """No such record."""

    def __init__(self, what: str, key: object) -> None:
        super().__init__(what, key)  # what it is made of, so that it may come out of another process

    def __str__(self) -> str:
        what, key = self.args
        return f"There is no {what} with the number {key}."


class ConflictError(StoreError):
    """The record cannot be changed in this way; nothing was changed."""


class RecordsError(StoreError):
    """The records cannot be opened; the text says why, what is safe, and what to do."""
