import { useQueryClient } from "@tanstack/react-query";
import { type KeyboardEvent, useState } from "react";
import { api } from "../../api/client";
import type { Summary } from "../../api/types";
import { useNotice } from "../../lib/notice";

const MAX_TAGS = 8;
const MAX_LENGTH = 24;

interface TagsProps {
  design: Summary;
  /** Show the designs that have a word. */
  onFind: (tag: string) => void;
}

/** Words to find a design by: a click finds those that have it, the cross takes it away. */
export function Tags({ design, onFind }: TagsProps) {
  const [typed, setTyped] = useState<string | null>(null);
  const queries = useQueryClient();
  const notify = useNotice((state) => state.notify);
  const keep = async (tags: string[]) => {
    try {
      await api.tag(design.id, tags);
      await queries.invalidateQueries({ queryKey: ["designs"] });
    } catch (error) {
      notify(`Not kept: ${(error as Error).message}`);
    }
  };
  const add = () => {
    const word = typed?.trim() ?? "";
    setTyped(null);
    if (word && !design.tags.includes(word)) void keep([...design.tags, word]);
  };
  const key = (event: KeyboardEvent) => {
    if (event.key === "Enter") add();
    if (event.key === "Escape") setTyped(null);
  };
  return (
    <span className="relative mt-1 flex flex-wrap items-center gap-1 text-xs" data-part="tags">
      {design.tags.map((tag) => (
        <span key={tag} className="tag inline-flex items-center gap-1">
          <button type="button" className="hover:text-river" onClick={() => onFind(tag)}>
            {tag}
          </button>
          <button
            type="button"
            className="text-soft hover:text-stop"
            aria-label={`Take “${tag}” from ${design.name}`}
            onClick={() => void keep(design.tags.filter((one) => one !== tag))}
          >
            ×
          </button>
        </span>
      ))}
      {typed !== null ? (
        <input
          className="field h-7 w-28 text-xs"
          aria-label={`A word for ${design.name}`}
          maxLength={MAX_LENGTH}
          // biome-ignore lint/a11y/noAutofocus: it takes the place of the button just pressed
          autoFocus
          value={typed}
          onChange={(event) => setTyped(event.target.value)}
          onKeyDown={key}
          onBlur={add}
        />
      ) : design.tags.length < MAX_TAGS ? (
        <button
          type="button"
          className="text-soft underline hover:text-river"
          aria-label={`+ tag for ${design.name}`}
          onClick={() => setTyped("")}
        >
          + tag
        </button>
      ) : null}
    </span>
  );
}
