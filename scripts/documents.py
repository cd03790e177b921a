"""Writes what is made from the code: OpenAPI document, JSON Schemas, the floors of the core.

Run it as `.venv/bin/python scripts/documents.py docs`, or with a folder to compare with that one.
"""

import json
import sys
from pathlib import Path

from architecture import picture
from graveljar.api.app import create_app
from graveljar.cli import schema_of


def documents() -> dict[str, str]:
    """Each document by its path in `docs`."""
    schemas = {f"{name}.schema": (schema_of(name), 2) for name in ("design", "evaluation")}
    made = {"openapi": (create_app().openapi(), 1)} | schemas
    written = {
        f"schema/{name}.json": json.dumps(document, indent=indent, ensure_ascii=False) + "\n"
        for name, (document, indent) in made.items()
    }
    return written | {"architecture.svg": picture() + "\n"}


if __name__ == "__main__":
    for path, text in documents().items():
        file = Path(sys.argv[1]) / path
        file.parent.mkdir(parents=True, exist_ok=True)
        file.write_text(text)
