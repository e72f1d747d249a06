import { useCallback, useEffect, useRef } from "react";
import { useNavigate } from "react-router";
import type { Schemas } from "../api/client";
import { steppedFromValue } from "../dials/scale";
import { afterPaint } from "../lib/drafts/afterPaint";
import { isTyping } from "../lib/focus/isTyping";
import { tell } from "../ui/overlay/toaster";
import { STEPS } from "./steps";
import type { Shot, ShotWork } from "./useShot";

interface Actions {
  shot: Shot | undefined;
  set: ShotWork["set"];
  /** Values on their way to the server: the next press of a key starts from them. */
  asked: () => { [name: string]: unknown };
  /** Until nothing is on its way any more. */
  idle: () => Promise<void>;
  undo: () => void;
  redo: () => void;
  solve: () => void;
}

type Turned = {
  name: "f_number" | "iso" | "focal_mm" | "wanted_shutter_s";
  scale: keyof Schemas["DialsOut"];
  by: number;
};

const TURNS: Record<string, Turned> = {
  "[": { name: "f_number", scale: "apertures", by: -1 },
  "]": { name: "f_number", scale: "apertures", by: 1 },
  ";": { name: "wanted_shutter_s", scale: "shutters", by: -1 },
  "'": { name: "wanted_shutter_s", scale: "shutters", by: 1 },
  "-": { name: "iso", scale: "isos", by: -1 },
  "=": { name: "iso", scale: "isos", by: 1 },
  ",": { name: "focal_mm", scale: "focals", by: -1 },
  ".": { name: "focal_mm", scale: "focals", by: 1 },
};

/** Where a dial stands now: the newest of what was asked for, what is pinned, and what the application chose. */
function standsAt(shot: Shot, name: Turned["name"], asked: unknown): number | null {
  if (typeof asked === "number") return asked;
  const { depth, exposure, frame } = shot.plan;
  const shown = {
    f_number: depth.f_number ?? exposure.f_number,
    iso: exposure.iso ?? shot.facts.iso,
    focal_mm: frame.focal_mm,
    wanted_shutter_s: shot.facts.wanted_shutter_s ?? exposure.wanted?.value ?? exposure.shutter?.value ?? null,
  };
  return shown[name] ?? null;
}

/** Keys of the shot: steps, thirds, orientation, undo. Never while typing in a field. */
export function useShotKeys({ shot, set, asked, idle, undo, redo, solve }: Actions): void {
  const navigate = useNavigate();
  const latest = useRef(shot);
  latest.current = shot;
  const turnDial = useCallback(
    async ({ name, scale: kind, by }: Turned) => {
      // A text on its way is read by the server: the turn starts from what it makes of it.
      if (typeof asked()[name] === "string") {
        await idle();
        await afterPaint();
        // The server is away: a turn from the old value would overwrite what was typed.
        if (typeof asked()[name] === "string")
          return void tell("What was typed there waits for the server; turn it after that.", "shot");
      }
      const shot = latest.current;
      if (!shot) return;
      const scale = shot.dials[kind];
      const value = standsAt(shot, name, asked()[name]);
      if (value === null || !scale.marks.length)
        return void tell("There is nothing to turn yet: body, lens and light come first.", "shot");
      const to = steppedFromValue(scale.marks, value, by);
      const mark = scale.marks[to.index];
      if (to.end || !mark) return void tell(to.end === "start" ? scale.at_start : scale.at_end, "shot");
      set(name === "wanted_shutter_s" ? { wanted_shutter_s: mark.value, wanted_look: null } : { [name]: mark.value });
    },
    [set, asked, idle],
  );
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (!shot || isTyping(event) || document.querySelector("[role=dialog]")) return;
      if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === "z") {
        event.preventDefault();
        (event.shiftKey ? redo : undo)();
        return;
      }
      if (event.ctrlKey || event.metaKey || event.altKey) return;
      const step = STEPS[Number(event.key) - 1];
      if (step) return void navigate(`/shots/${shot.id}/${step}`, { state: { focus: "step" } });
      if (event.key === "s") return solve();
      if (event.key === "g") return void navigate(`/shots/${shot.id}/field`, { state: { focus: "step" } });
      if (event.key === "o")
        return set({
          orientation: (asked().orientation ?? shot.facts.orientation) === "portrait" ? "landscape" : "portrait",
        });
      const turn = TURNS[event.key];
      if (!turn) return;
      event.preventDefault();
      void turnDial(turn);
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [shot, set, asked, turnDial, undo, redo, solve, navigate]);
}
