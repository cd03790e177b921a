import type { Severity } from "../api/types";

/** Severities by word, shape and colour. */
export const SEVERITIES: Record<Severity, { word: string; shape: string; colour: string }> = {
  stop: { word: "Stop", shape: "⬣", colour: "text-stop border-stop" },
  fix: { word: "Fix", shape: "▲", colour: "text-fix border-fix" },
  watch: { word: "Watch", shape: "◆", colour: "text-watch border-watch" },
  note: { word: "Note", shape: "○", colour: "text-soft border-edge" },
};
