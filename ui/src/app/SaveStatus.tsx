import { useDesign } from "../design/store";

/** Where saving stands, in a word. */
export function SaveStatus() {
  const saving = useDesign((state) => state.saving);
  const dirty = useDesign((state) => state.version !== state.savedVersion);
  const status = saving.status === "saved" && dirty ? "waiting" : saving.status;
  const time =
    saving.status === "saved"
      ? saving.at.toLocaleTimeString(undefined, { hour: "2-digit", minute: "2-digit" })
      : "";
  const words = {
    saved: `saved ${time}`,
    waiting: "saving…",
    running: "saving…",
    invalid: "not saved: a value is refused",
    failed: "not saved, trying again",
    gone: "not saved: deleted elsewhere",
    conflict: "not saved: changed elsewhere",
  };
  const calm = status === "saved" || status === "waiting" || status === "running";
  return (
    <span
      // As wide in each of its usual states: what is left of it must not move while it is clicked.
      className={`max-w-60 min-w-26 truncate text-right text-sm ${calm ? "text-soft" : "font-semibold text-stop"}`}
      role="status"
      title={saving.status === "failed" ? `${words.failed}: ${saving.reason}` : words[status]}
      data-saving={status}
    >
      {words[status]}
    </span>
  );
}
