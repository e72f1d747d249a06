import { useQuery } from "@tanstack/react-query";
import { useEffect } from "react";
import { useNavigate } from "react-router";
import { markingsQuery } from "../api/queries";
import { type Detent, nearestDetent } from "../dials/Dial";
import { isTyping } from "../TopBar";
import { STEPS } from "./steps";
import type { Shot, ShotWork } from "./useShot";

interface Actions {
  shot: Shot | undefined;
  set: ShotWork["set"];
  /** Values on their way to the server: the next press of a key starts from them. */
  asked: () => { [name: string]: unknown };
  undo: () => void;
  redo: () => void;
}

/** Keys of the shot: steps, thirds, orientation, undo. Never while typing in a field. */
export function useShotKeys({ shot, set, asked, undo, redo }: Actions): void {
  const markings = useQuery(markingsQuery()).data;
  const navigate = useNavigate();
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (!shot || isTyping(event) || document.querySelector("dialog[open]")) return;
      if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === "z") {
        event.preventDefault();
        (event.shiftKey ? redo : undo)();
        return;
      }
      if (event.ctrlKey || event.metaKey || event.altKey) return;
      const step = STEPS[Number(event.key) - 1];
      if (step) return void navigate(`/shots/${shot.id}/${step}`);
      if (event.key === "g") return void navigate(`/shots/${shot.id}/field`);
      if (event.key === "n") return void navigate("/?new");
      if (event.key === "/") {
        event.preventDefault();
        return void navigate("/?find");
      }
      if (event.key === "o")
        return set({ orientation: (asked().orientation ?? shot.facts.orientation) === "upright" ? "lengthwise" : "upright" });
      if (!markings) return;
      const { frame, exposure } = shot.plan;
      const moved = (name: string, detents: Detent[], shown: number | null | undefined, by: number): number | undefined => {
        const value = Number(asked()[name] ?? shown);
        return value ? detents[nearestDetent(detents, value) + by]?.value : undefined;
      };
      const wanted = shot.facts.wanted_shutter_s ?? exposure.shutter?.value;
      const moves: Record<string, () => { [name: string]: number | undefined }> = {
        "[": () => ({ f_number: moved("f_number", markings.apertures, shot.plan.depth.f_number, -1) }),
        "]": () => ({ f_number: moved("f_number", markings.apertures, shot.plan.depth.f_number, 1) }),
        ";": () => ({ wanted_shutter_s: moved("wanted_shutter_s", markings.shutters, wanted, -1) }),
        "'": () => ({ wanted_shutter_s: moved("wanted_shutter_s", markings.shutters, wanted, 1) }),
        "-": () => ({ iso: moved("iso", markings.isos, exposure.iso, -1) }),
        "=": () => ({ iso: moved("iso", markings.isos, exposure.iso, 1) }),
        ",": () => ({ focal_mm: moved("focal_mm", markings.focals, frame.focal_mm, -1) }),
        ".": () => ({ focal_mm: moved("focal_mm", markings.focals, frame.focal_mm, 1) }),
      };
      const patch = moves[event.key]?.();
      if (patch && Object.values(patch).every((value) => value !== undefined)) {
        event.preventDefault();
        set(patch);
      }
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [shot, markings, set, asked, undo, redo, navigate]);
}
