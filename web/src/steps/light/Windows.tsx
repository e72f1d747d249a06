import { Box, chakra } from "@chakra-ui/react";
import { useState } from "react";
import { client, type Schemas } from "../../api/client";
import { useOpened } from "../../lib/drafts/useOpened";
import { labelOf } from "../../lib/format/labels";
import { saveAs } from "../../lib/format/saveAs";
import type { ShotWork } from "../../shots/useShot";
import { Button } from "../../ui/form/Button";
import { Cautions } from "../../ui/layout/Cautions";
import { Section } from "../../ui/layout/Section";
import { PromiseBar } from "./PromiseBar";
import { PromiseReasons } from "./PromiseReasons";

type Window = Schemas["WindowOut"];

// So many windows are in sight at first.
const FIRST = 4;

/** The windows of the day, the wanted one first; one can be opened for its reasons and taken into the shot. */
export function Windows({
  shot,
  day,
  set,
}: {
  shot: ShotWork["shot"];
  day: Schemas["ShotDayOut"];
  set: ShotWork["set"];
}) {
  const [open, setOpen] = useState<string>();
  const [out, setOut] = useState(false);
  const [all, setAll] = useOpened("windows of the day");
  return (
    <Section
      title="Windows of the day"
      aside={
        <Button look="quiet" py="0" fontSize="small" aria-expanded={out} onClick={() => setOut(!out)}>
          what is ruled out
        </Button>
      }
    >
      <Box as="ul">
        {day.windows.slice(0, all ? undefined : FIRST).map((window) => (
          <WindowLine
            key={window.kind + window.start_utc}
            window={window}
            open={open === window.kind + window.start_utc}
            toggle={() => setOpen(open === window.kind + window.start_utc ? undefined : window.kind + window.start_utc)}
            take={() => set({ time_utc: window.take_start_utc, window_end_utc: window.take_end_utc })}
            save={() =>
              void saveCalendar(shot.id, [
                { ...window, start_utc: window.take_start_utc, end_utc: window.take_end_utc },
              ])
            }
          />
        ))}
      </Box>
      {day.windows.length > FIRST && (
        <Box>
          <Button look="quiet" py="0" fontSize="small" aria-expanded={all} onClick={() => setAll(!all)}>
            {all ? "the first few" : `${day.windows.length - FIRST} more windows`}
          </Button>
        </Box>
      )}
      {!day.windows.length && <Box color="muted">No kind of light that is looked for falls into this day.</Box>}
      {out && (
        <Box as="ul" fontSize="small" display="grid" gap="3px">
          {day.ruled_out.map((item) => (
            <li key={item.kind}>
              <Box as="span" fontWeight="650">
                {labelOf("LightKind", item.kind)}
              </Box>{" "}
              {item.reason}
            </li>
          ))}
          {!day.ruled_out.length && <li>Nothing: every kind of light comes on this day.</li>}
        </Box>
      )}
    </Section>
  );
}

function WindowLine({
  window,
  open,
  toggle,
  take,
  save,
}: {
  window: Window;
  open: boolean;
  toggle: () => void;
  take: () => void;
  save: () => void;
}) {
  return (
    <Box as="li" borderBottom="1px solid" borderColor="line" data-window={window.kind}>
      <chakra.button
        type="button"
        aria-expanded={open}
        onClick={toggle}
        display="grid"
        gridTemplateColumns="minmax(0, 1fr) auto minmax(0, auto) 12px"
        gap="10px"
        width="100%"
        textAlign="left"
        bg="transparent"
        border="0"
        py="4px"
        px="0"
        cursor="pointer"
        alignItems="center"
      >
        <Box
          as="span"
          fontWeight={window.wanted ? 650 : 400}
          color={window.broken ? "rust" : window.wanted ? "accent" : "fg"}
        >
          {labelOf("LightKind", window.kind)}
          {window.wanted ? ", wanted" : ""}
          {window.broken && (
            <Box as="span" display="block" fontSize="small" fontWeight="400">
              {window.too_short ? "too short for all frames" : "no way there and back"}
            </Box>
          )}
          {!window.broken && window.unknown && (
            <Box as="span" display="block" fontSize="small" fontWeight="400" color="muted">
              ○ the tide then is not known
            </Box>
          )}
        </Box>
        <Box as="span" fontFamily="mono" fontSize="body" whiteSpace="nowrap">
          {window.span_words}
        </Box>
        {window.promise ? <PromiseBar promise={window.promise} /> : <span />}
        <Box as="span" color="muted" aria-hidden="true">
          {open ? "−" : "+"}
        </Box>
      </chakra.button>
      {open && (
        <Box pb="8px" fontSize="small" display="grid" gap="4px">
          <Box>
            {window.reasons.join(" ")} {!window.broken && window.way_words}
          </Box>
          {(window.broken || window.unknown || window.cut) && (
            <Box color={window.broken ? "rust" : "fg"} data-closed="">
              {window.broken || [window.unknown, window.cut].filter(Boolean).join(" ")}
            </Box>
          )}
          <Cautions cautions={window.cautions} />
          {window.promise && <PromiseReasons promise={window.promise} />}
          <Box display="flex" gap="8px" flexWrap="wrap">
            <Button {...(window.broken ? { look: "quiet" as const } : {})} onClick={take}>
              {window.broken ? "take it all the same" : window.take_words}
            </Button>
            <Button look="quiet" onClick={save}>
              save for the calendar
            </Button>
          </Box>
        </Box>
      )}
    </Box>
  );
}

/** Windows of a shot as an iCalendar file. */
export async function saveCalendar(
  shotId: number,
  windows: { start_utc: string; end_utc: string; kind: string }[],
): Promise<void> {
  const { data, response } = await client.POST("/api/shots/{shot_id}/calendar", {
    params: { path: { shot_id: shotId } },
    body: { windows: windows.map(({ start_utc, end_utc, kind }) => ({ start_utc, end_utc, kind })) },
    parseAs: "blob",
  });
  const file: unknown = data;
  if (response.ok && file instanceof Blob) saveAs(file, "windows-of-light.ics");
}
