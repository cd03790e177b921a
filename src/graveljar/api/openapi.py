"""Writes the OpenAPI document to standard output: the interface's types are made from it."""

import json
import sys

from graveljar.api.app import create_app

if __name__ == "__main__":
    sys.stdout.write(json.dumps(create_app().openapi(), indent=1, ensure_ascii=False) + "\n")
