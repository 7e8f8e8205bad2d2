"""Where a server listens."""


class AddressError(Exception):
    """The server cannot listen where it was told to; the message says why."""
