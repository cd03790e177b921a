"""`gravel-jar`: the core without a server. JSON on standard output; exit 2 on bad input."""

import argparse
import json
import sys
from pathlib import Path
from typing import Any

from pydantic import TypeAdapter

from graveljar.core.document import Design
from graveljar.core.errors import GravelJarError
from graveljar.core.evaluate import evaluate
from graveljar.core.evaluation import Evaluation
from graveljar.core.reading import read_design

BAD_INPUT = 2


def main(arguments: list[str] | None = None) -> int:
    """Run one command and give its exit code."""
    parser = argparse.ArgumentParser(prog="gravel-jar", description=__doc__)
    commands = parser.add_subparsers(dest="command", required=True)
    evaluated = commands.add_parser("evaluate", help="work out a design document")
    evaluated.add_argument("file", help="a design document, or - for standard input")
    schema = commands.add_parser("schema", help="print a JSON Schema")
    schema.add_argument("document", choices=["design", "evaluation"])
    commands.add_parser("bench", help="measure how fast the engine is on this machine")
    given = parser.parse_args(arguments)
    if given.command == "bench":
        # Only here: nothing else needs a server.
        from graveljar.bench import bench  # noqa: PLC0415

        print_json(bench())
        return 0
    if given.command == "schema":
        print_json(schema_of(given.document))
        return 0
    return _evaluate(given.file)


def schema_of(document: str) -> dict[str, Any]:
    """JSON Schema of a document, `design` or `evaluation`."""
    if document == "design":
        return Design.model_json_schema()
    return TypeAdapter(Evaluation).json_schema(mode="serialization")


def print_json(value: Any) -> None:
    """Write a value as JSON to standard output."""
    sys.stdout.write(json.dumps(value, indent=2, ensure_ascii=False) + "\n")


def _evaluate(file: str) -> int:
    try:
        raw = sys.stdin.buffer.read() if file == "-" else Path(file).read_bytes()
        evaluation = evaluate(read_design(raw))
    except (OSError, GravelJarError) as error:
        reason = error.message if isinstance(error, GravelJarError) else f"{error.strerror}: {file}"
        sys.stderr.write(f"gravel-jar: {reason}\n")
        return BAD_INPUT
    print_json(TypeAdapter(Evaluation).dump_python(evaluation, mode="json"))
    return 0


if __name__ == "__main__":
    sys.exit(main())
