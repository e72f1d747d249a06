import { Box } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import type { Schemas } from "../../api/client";
import { kitQuery } from "../../api/queries";
import { percentInUse } from "../../lib/format/numbers";
import { plural } from "../../lib/format/spelling";
import { ShotField } from "../../shots/ShotField";
import { StepLayout } from "../../shots/StepLayout";
import type { ShotWork } from "../../shots/useShot";
import { Figure, Figures } from "../../ui/layout/Figure";
import { Row, Section } from "../../ui/layout/Section";
import { Empty } from "../../ui/layout/States";
import { BlendSheet } from "./BlendSheet";
import { ContactStrip } from "./ContactStrip";
import { Groups } from "./Groups";

/** Step 6: the frames to take, in order, against the light that is left. */
export default function SequencePage(work: ShotWork) {
  const { shot } = work;
  const { sequence, depth, exposure } = shot.plan;
  const kit = useQuery(kitQuery()).data;
  const filters = sequence.frames[0]?.filters ?? [];
  return (
    <StepLayout
      onPhone={sequence.frames.length > 0 ? "auto" : undefined}
      drawing={
        sequence.frames.length ? (
          <ContactStrip shot={shot} />
        ) : (
          <Empty>The frames follow once depth (4) and exposure (5) are said.</Empty>
        )
      }
      dials={
        <>
          <Section title="Time">
            <Figures>
              <Figure size="heading" name="frames" value={sequence.frames.length || "–"} />
              <Figure size="heading" name="takes" value={sequence.total_label ?? "–"} />
              <Figure
                size="heading"
                name="light left"
                value={sequence.available_label ?? "–"}
                note={sequence.window_end_clock ? `until ${sequence.window_end_clock}` : undefined}
              />
            </Figures>
          </Section>
          {sequence.groups.length > 0 && <Groups {...work} filters={kit?.filters ?? []} />}
          {sequence.frames.length > 0 && <BlendSheet shot={shot} />}
          {sequence.stores && <Stores stores={sequence.stores} />}
          <Section title="Between frames" fold="settling, self-timer, filter changes">
            <Row>
              <ShotField label="Settling" name="settle_s" unit="s" step={1} hint="after a change of focus or filter" />
              <ShotField label="Self-timer" name="timer_s" unit="s" step={1} />
              <ShotField label="After mirror-up" name="mirror_s" unit="s" step={1} hint="0 without a mirror" />
              <ShotField label="Filter on or off" name="filter_change_s" unit="s" step={5} />
              {sequence.frames.some((frame) => frame.aim_label) && (
                <ShotField label="Turning the head" name="turn_s" unit="s" step={1} hint="besides settling" />
              )}
            </Row>
            <Box fontSize="small" color="muted">
              The usual self-timer is 2 s, with a long lens 5 s. Writing the file and dark frames are the body's, under
              Kit.
            </Box>
          </Section>
          {sequence.frames.length > 0 && (
            <Section title="The same in all frames" fold="aperture, ISO, filters">
              <Figures>
                <Figure name="aperture" value={exposure.f_number_label ?? ""} />
                <Figure name="ISO" value={exposure.iso ?? ""} />
                <Figure
                  name="bracket"
                  value={exposure.exposures.length > 1 ? `${exposure.exposures.length}` : "none"}
                  note={
                    exposure.bracket_automatic === null
                      ? undefined
                      : exposure.bracket_automatic
                        ? "automatic"
                        : "set by hand"
                  }
                />
              </Figures>
              <Box fontSize="body">
                {filters.length ? `On the lens: ${filters.join(" + ")}` : "No filter on the lens."}
              </Box>
            </Section>
          )}
          {depth.positions.length > 0 && (
            <Section
              title={depth.method === "rail" ? "Rail" : "Focus, from the sensor plane"}
              fold={plural(depth.positions.length, "position")}
            >
              {depth.method === "rail" ? (
                <Box>
                  {depth.positions.length} frames,{" "}
                  <Box as="span" fontFamily="mono">
                    {depth.step_mm?.toFixed(2)} mm
                  </Box>{" "}
                  apart
                </Box>
              ) : (
                <Box as="ol" display="flex" flexWrap="wrap" gap="4px 18px" fontFamily="mono" fontSize="heading">
                  {depth.positions.map((item) => (
                    <li key={item.focus_distance.label}>{item.focus_distance.label}</li>
                  ))}
                </Box>
              )}
            </Section>
          )}
        </>
      }
    />
  );
}

/** What the frames take of battery and card. */
function Stores({ stores }: { stores: Schemas["StoresOut"] }) {
  const known = stores.battery_share !== null || stores.card_share !== null;
  return (
    <Section title="Battery and card" fold={stores.open_label}>
      <Figures>
        <Figure name="shutter open" value={stores.open_label} />
        <Figure
          name="battery"
          value={stores.battery_share === null ? "–" : percentInUse(stores.battery_share)}
          note={stores.cold < 0.95 ? `cold leaves ${percentInUse(stores.cold)}` : undefined}
        />
        <Figure
          name="card"
          value={stores.card_share === null ? "–" : percentInUse(stores.card_share)}
          note={stores.files_mb === null ? undefined : `${Math.round(stores.files_mb)} MB`}
        />
      </Figures>
      {!known && (
        <Box fontSize="small" color="muted">
          Say under Kit what a battery and a card of this body hold.
        </Box>
      )}
    </Section>
  );
}
