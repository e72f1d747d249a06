import { useCallback, useEffect, useRef, useState } from "react";
import { draftKey, readDraft, writeDraft } from "./drafts";
import { calm, dropped, type Editing, entered, left, overtaken, taken, toSend, typedInto } from "./editing";

/** The text of one field from being typed to being taken. name: under which what is unsent is kept. */
export function useEditing(name: string, value: string) {
  const [state, setState] = useState<Editing>(() => calm(readDraft(name)?.text));
  const now = useRef(state);
  now.current = state;
  const refused = useRef<string | undefined>(undefined);
  const put = useCallback(
    (next: Editing) => {
      now.current = next;
      setState(next);
      writeDraft(name, next.typed ?? next.left);
    },
    [name],
  );
  useEffect(() => setState(calm(readDraft(name)?.text)), [name]);
  useEffect(() => {
    const next = overtaken(now.current, value);
    if (next !== now.current) put(next);
    // What was left unsent has come into force some other way.
    else if (now.current.left === value) put(calm());
  }, [value, put]);
  useEffect(() => {
    // Another tab has kept or dropped a draft of the same field.
    const onStorage = (event: StorageEvent) => {
      if (event.key === draftKey(name) && now.current.typed === undefined) setState(calm(readDraft(name)?.text));
    };
    // A page that comes back as it was left, by the browser's own back and forward, is a visit of its own: what was typed is offered.
    const onShow = (event: PageTransitionEvent) => {
      if (event.persisted && now.current.typed !== undefined) put(calm(now.current.typed));
    };
    window.addEventListener("storage", onStorage);
    window.addEventListener("pageshow", onShow);
    return () => {
      window.removeEventListener("storage", onStorage);
      window.removeEventListener("pageshow", onShow);
    };
  }, [name, put]);
  return {
    state,
    type: (text: string) => put(typedInto(now.current, value, text)),
    enter: () => setState((old) => entered(old)),
    /** What leaving the field has to send; what was refused already is not asked for again. */
    leave: () => {
      const send = toSend(now.current, value);
      put(left(now.current, value));
      return send === refused.current ? undefined : send;
    },
    refused: useCallback((text: string) => {
      refused.current = text;
    }, []),
    pending: () => toSend(now.current, value),
    taken: useCallback((text: string) => put(taken(now.current, text)), [put]),
    drop: useCallback(() => put(dropped(now.current)), [put]),
  };
}

export type Edit = ReturnType<typeof useEditing>;
