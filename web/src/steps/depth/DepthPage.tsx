import { Box } from "@chakra-ui/react";
import { ShotDial } from "../../shots/ShotField";
import { StepLayout } from "../../shots/StepLayout";
import type { ShotWork } from "../../shots/useShot";
import { Working } from "../../shots/Working";
import { Figure, Figures } from "../../ui/layout/Figure";
import { Empty } from "../../ui/layout/States";
import { ApertureStrip } from "./ApertureStrip";
import { FocusChoices } from "./FocusChoices";
import { LensTable } from "./LensTable";
import { MethodSection } from "./MethodSection";
import { ReciprocalRuler } from "./ReciprocalRuler";
import { RigSection } from "./RigSection";
import { SharpSection } from "./SharpSection";
import { SubjectRuler } from "./SubjectRuler";

/** Step 4: what must be sharp, where to focus, in how many frames. */
export default function DepthPage(work: ShotWork) {
  const { shot, set } = work;
  const { facts, plan } = shot;
  const { depth } = plan;
  const closeUp = facts.magnification !== null;
  return (
    <StepLayout
      drawing={
        depth.positions.length ? (
          <>
            <Box flex="1" minH="0">
              {closeUp ? <SubjectRuler shot={shot} /> : <ReciprocalRuler shot={shot} set={set} />}
            </Box>
            <ApertureStrip choices={depth.apertures} set={set} />
          </>
        ) : (
          <Empty>
            {facts.lens_id && facts.body_id
              ? "Say at the right what must be sharp: tick elements, or type a near and a far limit. The ruler then shows where to focus."
              : "Choose a body and a lens in step 3 first."}
          </Empty>
        )
      }
      dials={
        <>
          {depth.f_number !== null && (
            <ShotDial
              name="f_number"
              scale="apertures"
              label="Aperture"
              value={depth.f_number}
              text={depth.f_number_label ?? ""}
            />
          )}
          <Box mt="10px" mb="12px">
            <Figures>
              <Figure name="frames" value={depth.positions.length || "–"} note={depth.method_words} />
              {closeUp ? (
                <Figure
                  name="depth per frame"
                  value={depth.slice_mm?.toFixed(2) ?? "–"}
                  unit="mm"
                  note={
                    depth.microscope_slice_mm
                      ? `by the microscope formula ${depth.microscope_slice_mm.toFixed(2)}`
                      : depth.step_mm
                        ? `steps of ${depth.step_mm.toFixed(2)} mm`
                        : undefined
                  }
                />
              ) : (
                <Figure
                  name="hyperfocal"
                  value={
                    <Working of="hyperfocal" term="hyperfocal distance">
                      {depth.hyperfocal?.label ?? "–"}
                    </Working>
                  }
                  note="from the lens"
                />
              )}
              <Figure
                name="worst blur"
                value={
                  <Working of="worst_blur" term="circle of confusion">
                    {depth.worst_blur_um !== null ? Math.round(depth.worst_blur_um) : "–"}
                  </Working>
                }
                unit="µm"
                note={`of ${Math.round(depth.coc_um ?? 0)} allowed`}
              />
              <Figure
                name="diffraction"
                value={
                  <Working of="diffraction" term="diffraction">
                    {depth.airy_um !== null ? Math.round(depth.airy_um) : "–"}
                  </Working>
                }
                unit="µm"
                note="Airy disc"
              />
            </Figures>
          </Box>
          <SharpSection {...work} />
          <MethodSection {...work} />
          <RigSection {...work} />
          <FocusChoices {...work} />
          <LensTable {...work} />
        </>
      }
    />
  );
}
