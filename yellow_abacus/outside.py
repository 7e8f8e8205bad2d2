"""Asking services outside over HTTP: answers in JSON, within limits of size and time, and clear words where none
comes."""

import json
from dataclasses import dataclass
from time import monotonic
from typing import Any

import httpx
from pydantic import ValidationError

TIMEOUT = httpx.Timeout(6.0, connect=2.0)


class ServiceDownError(Exception):
    """A service could not be asked, or did not answer as agreed. message, mend: what is wrong and what to do."""

    def __init__(self, message: str, mend: str) -> None:
        super().__init__(f"{message} {mend}")
        self.message, self.mend = message, mend


def where_wrong(error: ValidationError) -> str:
    """Where an answer is not as agreed, and how."""
    first = error.errors()[0]
    return f"{'/'.join(map(str, first['loc']))}: {first['msg']}"


@dataclass(frozen=True)
class Asking:
    """who: what the service is called. otherwise: what to do where it does not answer."""

    who: str
    address: str
    otherwise: str

    largest = 4_000_000
    """Bytes of an answer."""
    whole_time = 10.0
    """Seconds an answer may take in all, however little of it comes at a time."""

    def ask(self, path: str, **query: str) -> dict[str, Any]:
        """Asked once. Raises ServiceDownError."""
        who = f"{self.who} at {self.address}"
        try:
            told = json.loads(self._read(path, query))
        except httpx.TimeoutException as error:
            raise self.down(f"{who} did not answer in time.") from error
        except httpx.HTTPStatusError as error:
            raise self.down(f"{who} answered with error {error.response.status_code}.") from error
        except httpx.HTTPError as error:
            raise self.down(f"{who} cannot be reached.") from error
        except (ValueError, RecursionError) as error:
            raise self.down(f"{who} did not answer in JSON.") from error
        if not isinstance(told, dict):
            raise self.down(f"{who} did not answer as agreed.")
        return told

    def down(self, message: str) -> ServiceDownError:
        return ServiceDownError(message, self.otherwise)

    def _read(self, path: str, query: dict[str, str]) -> bytes:
        """The answer, as far as it is not too long and does not take too long."""
        ends, found = monotonic() + self.whole_time, bytearray()
        with httpx.stream("GET", self.address + path, params=query, timeout=TIMEOUT) as answer:
            answer.raise_for_status()
            for part in answer.iter_bytes():  # as they come, however small
                found += part
                if len(found) > self.largest:
                    raise self.down(f"The answer of {self.who[0].lower()}{self.who[1:]} is too long.")
                if monotonic() > ends:
                    raise self.down(f"{self.who} at {self.address} did not answer in time.")
        return bytes(found)
