/** Every key of the program in one list: what is listed on `?` is what works. */

import { useEffect, useRef } from "react";
import { useSettings } from "./settings";

interface Shortcut {
  /** As it is written in the list. */
  shown: string;
  what: string;
  where: "Everywhere" | "On the Plan";
  matches: (event: KeyboardEvent) => boolean;
}

/** A key alone. Such keys can be switched off: they get in the way of speech input. */
const key = (name: string) => (event: KeyboardEvent) =>
  event.key === name && !event.ctrlKey && !event.metaKey && !event.altKey;

const control = (event: KeyboardEvent) => (event.ctrlKey || event.metaKey) && !event.altKey;
const letter = (event: KeyboardEvent) => event.key.toLowerCase();

const plan = (shown: string, what: string, name = shown): Shortcut => ({
  shown,
  what,
  where: "On the Plan",
  matches: key(name),
});

export const SHORTCUTS = {
  undo: {
    shown: "Ctrl Z",
    what: "undo; in a text field, the typing",
    where: "Everywhere",
    matches: (event) => control(event) && !event.shiftKey && letter(event) === "z",
  },
  redo: {
    shown: "Ctrl Shift Z, Ctrl Y",
    what: "redo",
    where: "Everywhere",
    matches: (event) =>
      control(event) && (letter(event) === "y" || (event.shiftKey && letter(event) === "z")),
  },
  keys: { shown: "?", what: "this list", where: "Everywhere", matches: key("?") },
  entry: plan("/", "to quick entry"),
  loads: plan("1", "open What has to run"),
  bank: plan("2", "open Stores"),
  stages: plan("3", "open Inverters, converters"),
  needed: plan("4", "open Needed"),
  assumptions: plan("5", "open Assumptions"),
  leads: plan("6", "open Links"),
  routes: plan("7", "open Routes"),
  add: plan("a", "add a rail or an inverter to what is selected"),
  connect: plan("l", "connect power to a station"),
  move: plan("m", "move the chosen loads, or the selected one, to another rail"),
  regulator: plan("r", "put a regulator before the selected load"),
  remove: plan("Delete", "remove what is selected, or the chosen loads"),
} satisfies Record<string, Shortcut>;

export type ShortcutName = keyof typeof SHORTCUTS;

type Handlers = Partial<Record<ShortcutName, (event: KeyboardEvent) => void>>;

/** Whether text is being typed: there keys write, and Ctrl+Z takes back the writing. */
const typing = (target: EventTarget | null) =>
  target instanceof HTMLElement &&
  target.matches(
    "input:not([type=checkbox], [type=radio], [type=range]), textarea, [contenteditable]",
  );

const choosing = (target: EventTarget | null) =>
  target instanceof HTMLElement && target.matches("select");

/** Whether something lies over the page: keys do nothing behind it. */
const covered = () =>
  document.querySelector("[role=dialog], [role=alertdialog], [role=menu]") !== null;

function heeded(event: KeyboardEvent): boolean {
  if (event.defaultPrevented || event.isComposing || typing(event.target) || covered())
    return false;
  if (event.ctrlKey || event.metaKey) return true;
  return !choosing(event.target) && useSettings.getState().letterKeys;
}

/** What some of the keys do while a part of the screen is shown. */
export function useShortcuts(handlers: Handlers): void {
  const newest = useRef(handlers);
  useEffect(() => {
    newest.current = handlers;
  });
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      if (!heeded(event)) return;
      for (const name of Object.keys(newest.current) as ShortcutName[]) {
        if (!SHORTCUTS[name].matches(event)) continue;
        event.preventDefault();
        newest.current[name]?.(event);
        return;
      }
    };
    window.addEventListener("keydown", press);
    return () => window.removeEventListener("keydown", press);
  }, []);
}
