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
