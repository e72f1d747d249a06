import { useState } from "react";
import { readRecord, writeRecord } from "./drafts";

// Of this device, as theme and spelling are; no draft, which would go with the notebook.
const KEPT_AS = "opened";
/** What is said of those that were never touched. */
const ALL = "*";

/** Whether something that can be folded is open, kept on this device under its name. */
export function useOpened(name: string): [boolean, (open: boolean) => void] {
  const [open, setOpen] = useState(() => {
    const kept = readRecord(KEPT_AS) ?? {};
    return (kept[name] ?? kept[ALL]) === "open";
  });
  return [
    open,
    (next) => {
      if (next === open) return;
      setOpen(next);
      writeRecord(KEPT_AS, { ...readRecord(KEPT_AS), [name]: next ? "open" : "closed" });
    },
  ];
}
