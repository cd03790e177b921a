import type { Severity } from "../api/types";

interface Look {
  word: string;
  /** Said beside the word where it is met first. */
  means: string;
  shape: string;
  colour: string;
}

/** Severities by word, shape and colour. */
export const SEVERITIES: Record<Severity, Look> = {
  stop: { word: "Stop", means: "danger", shape: "⬣", colour: "text-stop border-stop" },
  fix: { word: "Fix", means: "will not work", shape: "▲", colour: "text-fix border-fix" },
  watch: { word: "Watch", means: "thin margin", shape: "◆", colour: "text-watch border-watch" },
  note: { word: "Note", means: "good to know", shape: "○", colour: "text-soft border-edge" },
};
