import { type RefObject, useEffect, useRef, useState } from "react";
import { afterPaint } from "../lib/drafts/afterPaint";
import type { Edit } from "../lib/drafts/useEditing";
import { between, nearestDetent, type Scale, stepped } from "./scale";

const SAID_MS = 5000;

interface Turned {
  scale: Scale;
  value: number | null;
  set: (value: number | string) => Promise<unknown>;
  error: string | undefined;
  forgive: (() => void) | undefined;
  edit: Edit;
}

/** How a dial is turned from mark to mark and what is typed into it is sent, each after what came before it. */
export function useSteps({ scale, value, set, error, forgive, edit }: Turned) {
  const detents = scale.marks;
  const [ended, setEnded] = useState<string>();
  const current = value === null ? Math.floor(detents.length / 2) : nearestDetent(detents, value);
  // Where quick key presses have got to before the server's answer to the first of them.
  const asked = useRef<number | null>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: an answer or a refusal ends the run
  useEffect(() => {
    asked.current = null;
  }, [value, error]);
  useEffect(() => {
    if (!ended) return;
    const timer = setTimeout(() => setEnded(undefined), SAID_MS);
    return () => clearTimeout(timer);
  }, [ended]);
  const drop = () => {
    edit.drop();
    forgive?.();
  };
  const go = (index: number) => {
    const target = detents[index];
    drop();
    if (target && (value === null || target.value !== value)) set(target.value).catch(() => undefined);
  };
  // A text on its way is read by the server: a step starts from what it makes of it.
  const sending = useRef<Promise<void> | null>(null);
  /** quiet: says nothing at the end of the scale, where Home and End go on purpose. */
  const step = (by: number, quiet = false) => {
    if (sending.current) return void sending.current.then(afterPaint).then(() => latest.current(by, quiet));
    const to = stepped(detents, asked.current ?? current, by);
    setEnded(quiet ? undefined : to.end === "start" ? scale.at_start : to.end === "end" ? scale.at_end : undefined);
    asked.current = to.index;
    go(to.index);
  };
  const latest = useRef(step);
  latest.current = step;
  const send = (typed: string | undefined) => {
    if (typed === undefined) return;
    const sent = set(typed)
      .then(
        () => edit.taken(typed),
        () => edit.refused(typed),
      )
      .then(() => {
        if (sending.current === sent) sending.current = null;
      });
    sending.current = sent;
  };
  return {
    current,
    exact: value === null ? current : between(detents, value, current),
    ended,
    step,
    latest,
    go,
    send,
    drop,
  };
}

/** Turns by the wheel over an element: React's own listener is passive and could not keep the page from scrolling. */
export function useWheel(
  target: RefObject<Element | null>,
  there: boolean,
  latest: RefObject<(by: number) => void>,
): void {
  useEffect(() => {
    const element = target.current;
    if (!there || !element) return;
    const onWheel = (event: Event) => {
      event.preventDefault();
      const { deltaX, deltaY } = event as WheelEvent;
      latest.current(deltaY + deltaX > 0 ? 1 : -1);
    };
    element.addEventListener("wheel", onWheel, { passive: false });
    return () => element.removeEventListener("wheel", onWheel);
  }, [target, there, latest]);
}
