/** Choices in the words of the trade. */

export const PROVENANCES = [
  ["measured", "measured"],
  ["label", "label"],
  ["rule of thumb", "rule of thumb"],
  ["guess", "guess"],
] as const;

export const NATURES = [
  ["heating", "heater, kettle"],
  ["lighting", "light"],
  ["electronics", "electronics"],
  ["charger", "charger"],
  ["audio", "audio"],
  ["motor", "motor, pump"],
  ["compressor", "compressor, fridge"],
  ["tool", "hand tool"],
  ["medical", "medical device"],
] as const;

export const PLUGS = (
  [
    "mains socket",
    "vehicle socket",
    "barrel",
    "two-pole connector",
    "screw terminals",
    "USB",
  ] as const
).map((plug) => [plug, plug] as const);

/** Of a plug whose label may not be at hand. */
export const KNOWN_POLARITIES = [
  ["unknown", "polarity not known"],
  ["centre positive", "centre positive"],
  ["centre negative", "centre negative"],
  ["marked", "marked"],
] as const;

export const POLARITIES = (["centre positive", "centre negative", "marked"] as const).map(
  (one) => [one, one] as const,
);

/** What makes an input take a mode. */
export const CHOSEN_BY = [
  ["nothing", "nothing"],
  ["connector", "the connector"],
  ["sense wire", "a sense wire"],
  ["setting", "a setting"],
] as const;
