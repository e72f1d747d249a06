import { useState } from "react";
import { parseRecord, readDraft, writeDraft } from "./drafts";

const KEPT_AS = "opened";
/** What is said of those that were never touched. */
const ALL = "*";

/** Whether something that can be folded is open, kept on this device under its name. */
export function useOpened(name: string): [boolean, (open: boolean) => void] {
  const [open, setOpen] = useState(() => {
    const kept = parseRecord(readDraft(KEPT_AS)?.text) ?? {};
    return (kept[name] ?? kept[ALL]) === "open";
  });
  return [
    open,
    (next) => {
      if (next === open) return;
      setOpen(next);
      const kept = parseRecord(readDraft(KEPT_AS)?.text) ?? {};
      writeDraft(KEPT_AS, JSON.stringify({ ...kept, [name]: next ? "open" : "closed" }));
    },
  ];
}
