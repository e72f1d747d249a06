import { useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import { sceneQuery, tonesQuery } from "../api/queries";
import type { Shot } from "../shot/useShot";
import { type Graduated, type LitScene, type Response, type SceneData, sceneData, type Tones } from "./sceneData";

export interface Toned {
  tones: Tones;
  scene: LitScene;
  data: SceneData;
}

/** The shot's picture in tones as it is planned; undefined while it is not ready. */
export function useTones(shot: Shot): Toned | undefined {
  const tones = useQuery(tonesQuery(shot.id, [shot.facts, shot.place])).data;
  const scene = useQuery({ ...sceneQuery(shot.id, tones?.scene_key ?? ""), enabled: !!tones?.ready }).data;
  const data = useMemo(() => (scene ? sceneData(scene) : undefined), [scene]);
  return tones?.ready && scene && data ? { tones, scene, data } : undefined;
}

/** What one of the shot's exposures makes of the scene: the one that carries the picture unless another is chosen. `held`: an edge under a hand. */
export function useResponse(
  shot: Shot,
  toned: Toned | undefined,
  index: number | null,
  held?: Partial<Graduated>,
): Response | undefined {
  const tones = toned?.tones;
  const { exposures } = shot.plan.exposure;
  return useMemo(() => {
    if (!tones) return undefined;
    const frame = exposures[index ?? tones.carrying] ?? exposures[0];
    const brightest = frame?.brightest_ev ?? tones.highlight_ev;
    const darkest = frame?.darkest_ev ?? tones.highlight_ev - tones.held_stops;
    return {
      brightestEv: brightest - tones.shift_stops,
      darkestEv: darkest - tones.shift_stops,
      toStops: tones.response_to_stops,
      tones: tones.response_tones,
      polariser: tones.polariser_on,
      graduated: tones.graduated ? { ...graduatedOf(tones.graduated), ...held } : null,
    };
  }, [tones, exposures, index, held]);
}

function graduatedOf(plate: NonNullable<Tones["graduated"]>): Graduated {
  return {
    at: plate.at,
    tiltDeg: plate.tilt_deg,
    widthMm: plate.plate_width_mm,
    heightMm: plate.plate_height_mm,
    fromMm: plate.table_from_mm,
    stepMm: plate.table_step_mm,
    stops: plate.stops,
  };
}
