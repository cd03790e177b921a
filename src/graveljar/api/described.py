"""The description of the API says of each body the type that it is sent as."""

from collections.abc import Iterable, Iterator
from typing import Any

from fastapi import FastAPI
from fastapi.responses import StreamingResponse


class Csv(StreamingResponse):
    """A table as CSV."""

    media_type = "text/csv"


def as_csv(parts: Iterable[str] | Iterable[bytes], file: str = "") -> Csv:
    """A table, part by part; with a name it is kept as a file."""
    head = {"Content-Disposition": f'attachment; filename="{file}"'} if file else None
    return Csv(parts, headers=head)


class DescribedApp(FastAPI):
    """An application whose description says what is sent.

    FastAPI describes the model of a further answer, as of an error, under the type of the usual
    one; what was named as its type stays empty.
    """

    def openapi(self) -> dict[str, Any]:
        """The description, made once."""
        if self.openapi_schema is None:
            for content in _contents(super().openapi()):
                empty = [kind for kind, body in content.items() if not body]
                filled = [kind for kind, body in content.items() if body]
                if len(empty) == len(filled) == 1:
                    content[empty[0]] = content.pop(filled[0])
        return super().openapi()


def _contents(schema: dict[str, Any]) -> Iterator[dict[str, Any]]:
    """What each answer of each request may hold, by type."""
    for requests in schema["paths"].values():
        for request in requests.values():
            for answer in request["responses"].values():
                yield answer.get("content", {})
