"""Reads documents from bytes, and turns validation errors into places and plain words."""

from collections.abc import Iterator, Sequence
from typing import Any, Final

from pydantic import ValidationError
from pydantic_core import ErrorDetails, from_json

from graveljar.core.errors import InvalidDocument, NewerVersion, Problem, UnreadableDocument
from graveljar.core.model import Design

MAX_BYTES: Final = 1_000_000
MAX_PROBLEMS: Final = 20

# Words for the validation errors a person can cause; {limits} come from the error itself.
_WORDS: Final = {
    "missing": "is missing",
    "extra_forbidden": "is not a known field",
    "greater_than": "must be more than {gt:g}",
    "greater_than_equal": "must be {ge:g} or more",
    "less_than_equal": "must be {le:g} or less",
    "finite_number": "must be a finite number",
    "float_type": "must be a number",
    "int_type": "must be a whole number",
    "int_from_float": "must be a whole number",
    "bool_type": "must be true or false",
    "string_type": "must be text",
    "dict_type": "must be an object",
    "model_type": "must be an object",
    "model_attributes_type": "must be an object",
    "tuple_type": "must be a list",
    "literal_error": "must be one of {expected}",
    "string_too_long": "may have at most {max_length} characters",
    "string_too_short": "must not be empty",
    "too_short": "must hold at least {min_length}",
    "too_long": "may hold at most {max_length}",
    "union_tag_not_found": "must say which kind it is",
    "union_tag_invalid": "must be one of {expected_tags}",
}


def parse(raw: bytes, most: int = MAX_BYTES) -> Any:
    """Bytes as JSON, bounded in size and depth, without NaN, infinity or U+0000.

    Raises
    ------
    UnreadableDocument : too large, nested too deep, cut short, or not JSON; says where.
    InvalidDocument : a text holds U+0000, which no database keeps; its problem names the place.
    """
    if len(raw) > most:
        raise UnreadableDocument(f"The document has {len(raw)} bytes; at most {most} are read.")
    try:
        value = from_json(raw, allow_inf_nan=False)
    except ValueError as error:
        raise UnreadableDocument(f"The document is not complete JSON: {error}.") from None
    # In JSON it is always written so; what is written so may be a backslash before "u0000".
    if b"\\u0000" in raw and (path := next(_with_nul(value), None)) is not None:
        problem = Problem(path, "nul_character", "must not hold the character U+0000")
        raise InvalidDocument(f"{path or 'The text'} {problem.message}.", (problem,))
    return value


def _with_nul(value: Any, path: tuple[int | str, ...] = ()) -> Iterator[str]:
    """Places of texts with U+0000; of a name in an object the object."""
    if isinstance(value, str) and "\0" in value:
        yield _pointer(path)
    if isinstance(value, dict):
        if any("\0" in name for name in value):
            yield _pointer(path)
        for name, one in value.items():
            yield from _with_nul(one, (*path, name))
    if isinstance(value, list):
        for at, one in enumerate(value):
            yield from _with_nul(one, (*path, at))


def read_design(raw: bytes) -> Design:
    """A checked design from its JSON text.

    Raises
    ------
    UnreadableDocument : not JSON.
    NewerVersion : written by a newer program.
    InvalidDocument : breaks a rule; its problems name the places.
    """
    value = parse(raw)
    if not isinstance(value, dict) or value.get("format") != "gravel-jar/design":
        raise InvalidDocument(
            "This is not a Gravel Jar design.",
            (Problem("/format", "not_a_design", "must be “gravel-jar/design”"),),
        )
    try:
        return Design.model_validate(value)
    except ValidationError as error:
        raise refusal(error.errors(include_url=False)) from None


def refusal(errors: Sequence[ErrorDetails]) -> InvalidDocument | NewerVersion:
    """One error of ours for all the validation errors of a document."""
    problems = tuple(problem for error in errors for problem in _problems(error))
    kept = problems[:MAX_PROBLEMS]
    if any(problem.code == "newer_version" for problem in problems):
        return NewerVersion(f"The document {problems[0].message}.", kept)
    first = f"{problems[0].path or 'The document'} {problems[0].message}"
    more = f", and {len(problems) - 1} more" if len(problems) > 1 else ""
    return InvalidDocument(f"{first}{more}.", kept)


def _problems(error: ErrorDetails) -> Iterator[Problem]:
    at = _without_tags(error["loc"])
    context = error.get("ctx", {})
    if error["type"] == "places":
        for location, code, message in context["places"]:
            yield Problem(_pointer((*at, *location)), code, message)
        return
    words = _WORDS.get(error["type"])
    message = words.format(**context) if words else _lowered(error["msg"])
    given = error.get("input")
    if isinstance(given, int | float | str) and error["type"] != "missing":
        message += f"; {str(given)[:40]!s} was given"
    yield Problem(_pointer(at), error["type"], message)


# Union members stand in a location by their tag: /loads/0/demand/watts/watts has one too many,
# and /stages/0/inverter/idle_w too.
_TAGGED: Final = {"demand", "start", "when", "part", "ask", "have"}
_LISTED: Final = {"stages", "parts", "stores", "outlets"}


def _without_tags(location: tuple[int | str, ...]) -> tuple[int | str, ...]:
    return tuple(step for index, step in enumerate(location) if not _is_tag(location[:index], step))


def _is_tag(before: tuple[int | str, ...], step: int | str) -> bool:
    if not before or isinstance(step, int):
        return False
    return before[-1] in _TAGGED or (len(before) > 1 and before[-2] in _LISTED)


def _pointer(location: tuple[int | str, ...]) -> str:
    return "".join(f"/{str(step).replace('~', '~0').replace('/', '~1')}" for step in location)


def _lowered(message: str) -> str:
    return message[:1].lower() + message[1:]
