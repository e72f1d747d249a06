import { useQuery } from "@tanstack/react-query";
import { useCallback, useState } from "react";
import { kitQuery } from "../../../api/queries";
import { useSize } from "../../../drawing/useSize";
import type { ShotWork } from "../../../shots/useShot";
import { Tabs } from "../../../ui/layout/Tabs";
import { Finder } from "../finder/Finder";
import { onGround, type Shift } from "../finder/scene";
import { useCamera } from "../finder/useCamera";
import { FlankView } from "../flank/FlankView";
import { GroundView } from "../ground/GroundView";

/** How far the ground and the flank show, from the mark or the camera [metres]. */
const REACHES = [0.06, 0.12, 0.25, 0.5, 1, 2, 3, 6, 12, 25, 50, 100, 250, 1000];
export type View = "finder" | "ground" | "flank";
const VIEWS: { value: View; label: string }[] = [
  { value: "finder", label: "Finder" },
  { value: "ground", label: "Ground" },
  { value: "flank", label: "Flank" },
];

/** The three linked views: what the sensor sees, the ground from above, the scene from the side. What moves in one moves in all. */
export function Views({
  work,
  view,
  setView,
  placing,
}: {
  work: ShotWork;
  /** Which one is shown where there is room for one alone. */
  view: View;
  setView: (view: View) => void;
  placing: ((bearing: number, distance: number) => void) | undefined;
}) {
  const { shot, set } = work;
  const camera = useCamera(work);
  const kit = useQuery(kitQuery()).data;
  const [shift, setShift] = useState<Shift>();
  const [step, setStep] = useState(0);
  const [frame, size] = useSize<HTMLDivElement>();
  // Near things and the camera's own place fit in; the hand may look nearer or wider.
  const near = shot.plan.frame.elements
    .filter((item) => !onGround(item.shape) && item.distance_m < 60)
    .map((item) => item.distance_m);
  const corners = shot.place?.viewpoint.standing?.corners ?? [];
  const wanted = Math.max(
    (near.length ? 1.5 : 1) * Math.min(...near, 6),
    shot.plan.frame.close_up ? 0 : 1.1 * Math.max(0, ...near.filter((metres) => metres <= 8)),
    1.3 * Math.hypot(camera.pose.east, camera.pose.north),
    shot.plan.frame.close_up ? 0 : 1.25 * Math.max(0, ...corners.flat().map(Math.abs)),
  );
  const usual = REACHES.findIndex((metres) => metres >= wanted);
  const reach =
    REACHES[Math.max(0, Math.min(REACHES.length - 1, (usual < 0 ? REACHES.length - 1 : usual) + step))] ?? 12;
  const zoom = useCallback((steps: number) => setStep((old) => old + steps), []);
  const portrait = shot.facts.orientation === "portrait";
  const support = kit?.supports.find((item) => item.id === shot.facts.support_id);
  const finder = <Finder shot={shot} set={set} camera={camera} shift={shift} />;
  const ground = (
    <GroundView
      shot={shot}
      camera={camera}
      reach={reach}
      zoom={zoom}
      shift={shift}
      setShift={setShift}
      placing={placing}
    />
  );
  const flank = <FlankView shot={shot} camera={camera} reach={reach} support={support} shift={shift} />;
  const narrow = size.width > 0 && size.width < 560;
  return (
    <div ref={frame} style={{ height: "100%", minHeight: 0, display: "flex", flexDirection: "column" }} data-bench="">
      {narrow ? (
        <Tabs label="Views" value={view} options={VIEWS} choose={setView}>
          {{ finder, ground, flank }[view]}
        </Tabs>
      ) : (
        <div
          style={{
            flex: 1,
            minHeight: 0,
            display: "grid",
            gap: "8px 12px",
            gridTemplateColumns: portrait ? "minmax(0, 1fr) minmax(0, 1.2fr)" : "minmax(0, 1.7fr) minmax(0, 1fr)",
            gridTemplateRows: portrait ? "minmax(0, 1.35fr) minmax(0, 1fr)" : "minmax(0, 1.95fr) minmax(0, 1fr)",
            gridTemplateAreas: portrait ? '"finder ground" "finder flank"' : '"finder ground" "flank flank"',
          }}
        >
          <div style={{ gridArea: "finder", minHeight: 0, minWidth: 0 }}>{finder}</div>
          <div style={{ gridArea: "ground", minHeight: 0, minWidth: 0 }}>{ground}</div>
          <div style={{ gridArea: "flank", minHeight: 0, minWidth: 0 }}>{flank}</div>
        </div>
      )}
    </div>
  );
}
