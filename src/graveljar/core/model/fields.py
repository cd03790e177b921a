"""What all parts of a document share: strictness, bounds, windows."""

from typing import Annotated, Any, Final, Literal, Self

from pydantic import (
    BaseModel,
    ConfigDict,
    Field,
    GetJsonSchemaHandler,
    field_validator,
    model_validator,
)
from pydantic.json_schema import JsonSchemaValue
from pydantic_core import CoreSchema, PydanticCustomError

# Anything smaller is a slip of the pen, and would run sums out of their range.
MIN_POSITIVE: Final = 1e-6
# Patterns: text that a database keeps; one line of it, without control characters.
ANY_TEXT: Final = r"^[^\x00]*$"
ONE_LINE: Final = r"^[^\x00-\x1f\x7f]*$"

Name = Annotated[
    str, Field(min_length=1, max_length=80, pattern=r"^[^\x00-\x1f\x7f]*\S[^\x00-\x1f\x7f]*$")
]
Id = Annotated[str, Field(pattern=r"^[a-z0-9][a-z0-9-]{0,39}$")]
Watts = Annotated[float, Field(gt=0, le=100_000)]
WattsOrNone = Annotated[float, Field(ge=0, le=100_000)]
Volts = Annotated[float, Field(gt=0, le=1_000)]
Amps = Annotated[float, Field(gt=0, le=10_000)]
# Of both conductors of a joint together. None: the assumption on joints.
MilliOhm = Annotated[float, Field(ge=0, le=10_000)]
Celsius = Annotated[float, Field(ge=-40, le=60)]
# After an overload: a person presses a button, or it restarts on its own.
Resets = Literal["by hand", "by itself"]
# What keeps a lithium battery from being charged in frost; "unknown": nothing is known of it.
ColdCharge = Literal["unknown", "cut-off", "heater"]
Provenance = Literal["measured", "label", "rule of thumb", "guess"]
Plug = Literal[
    "mains socket",
    "vehicle socket",
    "barrel",
    "two-pole connector",
    "screw terminals",
    "USB",
]
# Of a plug: where plus is. "marked" shows it beside its contacts.
Polarity = Literal["unknown", "centre positive", "centre negative", "marked"]


class Part(BaseModel):
    """Strict and frozen: no unknown field, no text for a number, no NaN, nothing vanishing."""

    model_config = ConfigDict(extra="forbid", strict=True, frozen=True, allow_inf_nan=False)

    @field_validator("*")
    @classmethod
    def _sizeable(cls, value: Any) -> Any:
        if isinstance(value, float) and 0 < abs(value) < MIN_POSITIVE:
            raise PydanticCustomError(
                "too_small", "must be 0 or at least {least}", {"least": f"{MIN_POSITIVE:f}"}
            )
        return value

    @classmethod
    def __get_pydantic_json_schema__(
        cls, schema: CoreSchema, handler: GetJsonSchemaHandler
    ) -> JsonSchemaValue:
        """The schema says what is refused: numbers that vanish and U+0000 too."""
        made = handler(schema)
        for field in handler.resolve_ref_schema(made).get("properties", {}).values():
            for one in (field, *field.get("anyOf", ())):
                if one.get("type") == "number":
                    _state_least(one)
                if one.get("type") == "string" and not one.keys() & {"pattern", "enum", "const"}:
                    one["pattern"] = ANY_TEXT
        return made


def _state_least(number: dict[str, Any]) -> None:
    """Add to a number's schema that it is 0 or at least so much."""
    if number.get("exclusiveMinimum") == 0:
        del number["exclusiveMinimum"]
        number["minimum"] = MIN_POSITIVE
    elif number.get("minimum", 0) <= 0:
        number["not"] = {"exclusiveMinimum": 0, "exclusiveMaximum": MIN_POSITIVE}


class ShelfCopy(Part):
    """The part on the shelf that this is a copy of, as it was at one revision of it."""

    part: Annotated[str, Field(pattern=r"^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$")]
    revision: Annotated[int, Field(ge=1, le=1_000_000_000)]


class Window(Part):
    """Volts a device accepts: below `least_v` it cuts out, above `most_v` it is damaged."""

    least_v: Volts
    most_v: Volts

    @model_validator(mode="after")
    def _upright(self) -> Self:
        if self.least_v >= self.most_v:
            raise PydanticCustomError(
                "window_upside_down", "must have its least volts below its most volts"
            )
        return self


def check_restart(restarts_v: float | None, least_v: float, most_v: float) -> None:
    """Refuse a restart outside of the window it belongs to."""
    if restarts_v is not None and not least_v <= restarts_v <= most_v:
        raise PydanticCustomError(
            "restart_outside_window",
            "must restart between its cut-out and its most volts",
        )
