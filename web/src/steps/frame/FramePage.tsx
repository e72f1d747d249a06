import { useState } from "react";
import { useSearchParams } from "react-router";
import { StepLayout } from "../../shots/StepLayout";
import type { ShotWork } from "../../shots/useShot";
import { Empty } from "../../ui/layout/States";
import { Tabs } from "../../ui/layout/Tabs";
import { heightAlone } from "./finder/Finder";
import { CameraPanel } from "./panels/CameraPanel";
import { CloseUpPanel } from "./panels/CloseUpPanel";
import { CropSection } from "./panels/CropSection";
import { FineTuner } from "./panels/FineTuner";
import { FrameReadings } from "./panels/FrameReadings";
import { Framings } from "./panels/Framings";
import { PanoramaSection } from "./panels/PanoramaSection";
import { ScenePanel } from "./panels/ScenePanel";
import { type View, Views } from "./panels/Views";

type Panel = "camera" | "scene" | "reading" | "tuner" | "framings" | "crop" | "close";
const PANELS: { value: Panel; label: string }[] = [
  { value: "camera", label: "Camera" },
  { value: "scene", label: "Scene" },
  { value: "reading", label: "Reading" },
  { value: "tuner", label: "Fine-tuner" },
  { value: "framings", label: "Framings" },
  { value: "crop", label: "Crop, panorama" },
];

/** Step 3: the composition bench. */
export default function FramePage(work: ShotWork) {
  const { shot } = work;
  const { place, plan } = shot;
  const [params, setParams] = useSearchParams();
  const [placed, setPlaced] = useState<{ bearing: number; distance: number }>();
  const [placing, setPlacing] = useState(false);
  const [chosen, setView] = useState<View>("finder");
  const view = placing ? "ground" : chosen;
  const panels = plan.frame.close_up ? [...PANELS, { value: "close" as Panel, label: "Close up" }] : PANELS;
  const panel = panels.find((item) => item.value === params.get("panel"))?.value ?? "camera";
  const stands = plan.frame.width_mm !== null;
  const scene = (place?.viewpoint.elements.length ?? 0) > 0;
  return (
    <StepLayout
      onPhone={stands && view === "finder" ? heightAlone(shot) : undefined}
      drawing={
        stands ? (
          <Views
            work={work}
            view={view}
            setView={setView}
            placing={
              placing
                ? (bearing, distance) => {
                    setPlaced({ bearing, distance });
                    setPlacing(false);
                  }
                : undefined
            }
          />
        ) : (
          <Empty>Choose a body and a lens at the right: the finder is drawn from them.</Empty>
        )
      }
      dials={
        <Tabs
          label="Parts of this step"
          value={panel}
          options={panels}
          choose={(next) => setParams({ panel: next }, { replace: true })}
        >
          {panel === "camera" && <CameraPanel {...work} />}
          {panel === "scene" &&
            (place ? (
              <ScenePanel {...work} placed={placed} placing={placing} setPlacing={setPlacing} />
            ) : (
              <Empty>Choose where the tripod stands in step 1 first.</Empty>
            ))}
          {panel === "reading" &&
            (stands && scene ? (
              <FrameReadings {...work} />
            ) : (
              <Empty>There is nothing to read yet: add elements under Scene.</Empty>
            ))}
          {panel === "tuner" &&
            (stands && scene ? (
              <FineTuner {...work} />
            ) : (
              <Empty>The tuner needs a body, a lens, and elements in the scene.</Empty>
            ))}
          {panel === "framings" && <Framings {...work} />}
          {panel === "crop" && (
            <>
              <CropSection {...work} />
              <PanoramaSection {...work} />
            </>
          )}
          {panel === "close" && <CloseUpPanel {...work} />}
        </Tabs>
      }
    />
  );
}
