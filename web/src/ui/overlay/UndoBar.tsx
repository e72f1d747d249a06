import { useCallback, useEffect } from "react";
import { client, type Schemas, take } from "../../api/client";
import { useAct } from "../../lib/drafts/useAct";
import { isTyping } from "../../lib/focus/isTyping";
import { Button } from "../form/Button";
import { complain, tell } from "./toaster";

/** Undo and redo of a page's own edits, by their names and by Ctrl+Z; what came of it is said. */
export function UndoBar({ undo, scopes }: { undo: Schemas["UndoOut"]; scopes: string[] }) {
  const act = useAct(
    ({ path, entry_id }: { path: "/api/undo" | "/api/redo"; entry_id: number }) =>
      take(client.POST(path, { body: { scopes, entry_id } })),
    { quiet: true },
  );
  const { mutate } = act;
  const turn = useCallback(
    (path: "/api/undo" | "/api/redo") => {
      const entry_id = path === "/api/undo" ? undo.undo_id : undo.redo_id;
      if (entry_id === null)
        return tell(path === "/api/undo" ? "There is nothing to undo." : "There is nothing to redo.");
      mutate(
        { path, entry_id },
        {
          onSuccess: (turned) => (turned.done ? tell : complain)(turned.words),
          onError: (error) => complain(error.message),
        },
      );
    },
    [mutate, undo],
  );
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (isTyping(event) || document.querySelector("[role=dialog]")) return;
      if (!(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== "z") return;
      event.preventDefault();
      turn(event.shiftKey ? "/api/redo" : "/api/undo");
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [turn]);
  return (
    <>
      {undo.undo_label && (
        <Button look="quiet" disabled={act.isPending} onClick={() => turn("/api/undo")}>
          undo: {undo.undo_label}
        </Button>
      )}
      {undo.redo_label && (
        <Button look="quiet" disabled={act.isPending} onClick={() => turn("/api/redo")}>
          redo: {undo.redo_label}
        </Button>
      )}
    </>
  );
}
