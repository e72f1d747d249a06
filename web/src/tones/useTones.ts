import { useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import { sceneQuery, tonesQuery } from "../api/queries";
import { useRested } from "../lib/drafts/useSettled";
import { useAnswered } from "../shots/useAnswered";
import type { Shot } from "../shots/useShot";
import {
  type Corrections,
  type Graduated,
  type LitScene,
  type Response,
  type SceneData,
  type Shift,
  sceneData,
  type Tones,
} from "./sceneData";

// Exposure and view follow a hand at once by what is here; while edits keep coming, the light waits for the last of them.
const SETTLE_MS = 300;

export interface Toned {
  tones: Tones;
  scene: LitScene;
  data: SceneData;
  /** Where elements stand by the plan against where this scene has them: one that was moved is shown moved until its new light is there. */
  moved: ReadonlyMap<number, Shift>;
}

/** The shot's picture in tones as it is planned; undefined while it is not ready. */
export function useTones(shot: Shot): Toned | undefined {
  const tones = useQuery(tonesQuery(shot.id, useRested(useAnswered(shot.id), SETTLE_MS))).data;
  const scene = useQuery({ ...sceneQuery(shot.id, tones?.scene_key ?? ""), enabled: !!tones?.ready }).data;
  const data = useMemo(() => (scene ? sceneData(scene) : undefined), [scene]);
  const { elements } = shot.plan.frame;
  // biome-ignore lint/correctness/useExhaustiveDependencies: as the plan had them when the scene came
  const placed = useMemo(() => placesOf(elements), [scene]);
  const moved = useMemo(() => {
    const now = placesOf(elements);
    return new Map(
      [...now].flatMap(([id, at]) => {
        const was = placed.get(id);
        return was && (was.east !== at.east || was.north !== at.north)
          ? [[id, { east: at.east - was.east, north: at.north - was.north }] as const]
          : [];
      }),
    );
  }, [elements, placed]);
  return tones?.ready && scene && data ? { tones, scene, data, moved } : undefined;
}

/** A point of each element, by which one sees whether it was moved. */
function placesOf(elements: Shot["plan"]["frame"]["elements"]): Map<number, Shift> {
  return new Map(
    elements.flatMap((item) => {
      const [east = 0, north = 0] = item.meshes[0]?.points[0] ?? [];
      return item.meshes.length ? [[item.id, { east, north }] as const] : [];
    }),
  );
}

/** What one of the shot's exposures makes of the scene: the one that carries the picture unless another is chosen. `held`: an edge under a hand. */
export function useResponse(
  shot: Shot,
  toned: Toned | undefined,
  index: number | null,
  { held, through }: { held?: Partial<Graduated>; through?: string | undefined } = {},
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
      corrections: correctionsOf(tones, through),
      graduated: tones.graduated ? { ...graduatedOf(tones.graduated), ...held } : null,
    };
  }, [tones, exposures, index, held, through]);
}

/** What spot readings say, and what a coloured filter does to black and white. */
function correctionsOf(tones: Tones, through: string | undefined): Corrections {
  const filter = tones.monochrome.find((item) => item.filter === through);
  const elements = Object.fromEntries(
    Object.entries(tones.element_stops).map(([id, stops]) => [id, stops + (filter?.element_stops[id] ?? 0)]),
  );
  return {
    sky: tones.sky_stops + (filter?.sky_stops ?? 0),
    land: tones.land_stops + (filter?.land_stops ?? 0),
    elements: { ...filter?.element_stops, ...elements },
  };
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
