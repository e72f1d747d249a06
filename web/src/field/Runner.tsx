import { Box } from "@chakra-ui/react";
import { useState } from "react";
import type { Schemas } from "../api/client";
import { dayText } from "../parts/spelling";
import { Countdown } from "./Countdown";
import type { Span } from "./countdown";
import { isOver } from "./events";
import { LightLeft } from "./LightLeft";
import { More, type Panel } from "./More";
import { Thumb } from "./Thumb";
import { useAwake } from "./useAwake";
import type { RunWork } from "./useRun";

type Frame = Schemas["RunFrameOut"];

/** One frame at a time, in figures that are read at arm's length. */
export function Runner({ work, aspects, head }: { work: RunWork; aspects: string[]; head?: React.ReactNode }) {
  const { sheet, run, now } = work;
  const awake = useAwake();
  const [panel, setPanel] = useState<Panel | null>(null);
  const [looked, setLooked] = useState<string | null>(null);
  const [exposed, setExposed] = useState<{ key: string; seconds: number } | null>(null);
  const frame = sheet.frames.find((item) => item.key === looked) ?? now;
  const over = sheet.frames.filter((item) => isOver(run.frames[item.key])).length;
  const step = (by: number) => {
    const index = sheet.frames.findIndex((item) => item.key === frame?.key) + by;
    setLooked(sheet.frames[index]?.key ?? null);
  };
  const taken = async (count = 1) => {
    if (!frame) return;
    const actual = exposed?.key === frame.key ? { shutter_s: exposed.seconds } : {};
    setLooked(null);
    setExposed(null);
    await work.tell("taken", { frame: frame.key, count, ...actual });
  };
  return (
    <Box as="main" id="main" tabIndex={-1} outline="none" maxW="560px" mx="auto" px="12px" pb="16px" display="grid" gap="12px">
      <Box display="flex" alignItems="baseline" justifyContent="space-between" gap="10px" pt="8px">
        <Box as="h1" fontSize="18px" fontWeight="700" minW="0">
          {sheet.name}
          {sheet.outing && (
            <Box as="span" display="block" fontSize="13px" fontWeight="400">
              {sheet.outing}
              {sheet.date && `, ${dayText(sheet.date, true)}`}
            </Box>
          )}
        </Box>
        {head}
      </Box>
      <LightLeft sheet={sheet} lateMin={run.lateMin} />
      <Told work={work} awake={awake} />
      {panel ? (
        <More panel={panel} work={work} aspects={aspects} frame={frame} close={() => setPanel(null)} />
      ) : frame ? (
        <Face frame={frame} work={work} over={over} step={step} exposed={(seconds) => setExposed({ key: frame.key, seconds })} />
      ) : (
        <Done work={work} />
      )}
      {!panel && frame && (
        <Box display="grid" gridTemplateColumns="2fr 1fr" gap="8px" position="sticky" bottom="0" bg="bg" py="6px">
          <Thumb look="main" minH="72px" fontSize="22px" onClick={() => void taken()}>
            Taken
          </Thumb>
          {isOver(run.frames[frame.key]) ? (
            <Thumb onClick={() => void work.tell("again", { frame: frame.key }).then(() => setLooked(null))}>Again</Thumb>
          ) : (
            <Thumb
              onClick={() => {
                setLooked(null);
                void work.tell("skipped", { frame: frame.key });
              }}
            >
              Skip
            </Thumb>
          )}
        </Box>
      )}
      {!panel && (
        <Box display="grid" gridTemplateColumns="repeat(3, 1fr)" gap="8px">
          <Thumb onClick={() => void work.undo()} disabled={work.events.length === 0}>
            Undo
          </Thumb>
          <Thumb onClick={() => setPanel("differs")}>It differs</Thumb>
          <Thumb onClick={() => setPanel("note")}>Note</Thumb>
          <Thumb onClick={() => setPanel("checks")}>Checks</Thumb>
          <Thumb onClick={() => setPanel("waves")}>Waves</Thumb>
          <Thumb onClick={() => setPanel("out")}>Take out</Thumb>
        </Box>
      )}
    </Box>
  );
}

function Told({ work, awake }: { work: RunWork; awake: boolean }) {
  const { found, waiting, behind, trouble, sheet } = work;
  const mark = found.mark === "fails" ? "▲ " : found.mark === "tight" ? "◐ " : "";
  return (
    <>
      {found.words && (
        <Box role="status" fontSize="16px" color={found.mark === "fails" ? "rust" : "fg"} data-found="">
          {mark}
          {found.words}
        </Box>
      )}
      {trouble && (
        <Box role="alert" fontSize="16px" color="rust">
          {trouble}
        </Box>
      )}
      {behind && (
        <Box role="status" fontSize="16px" color="rust" data-behind="">
          ◐ The server is away: what differs is planned with when it is back. Until then only the tables answer.
        </Box>
      )}
      {waiting !== null && waiting > 0 && (
        <Box role="status" fontSize="15px" color="haze" data-waiting={waiting}>
          {waiting} {waiting === 1 ? "entry waits" : "entries wait"} on this device for the server.
        </Box>
      )}
      {!awake && (
        <Box fontSize="15px" color="muted">
          This screen may go dark by itself: set it to stay on.
        </Box>
      )}
      {sheet.predicted && !work.run.light && (
        <Box fontSize="16px" color="rust">
          ◐ The exposure is predicted, not metered: meter first, under “It differs”.
        </Box>
      )}
    </>
  );
}

/** The frame at hand: what the hand does, then the figures, then the countdown. */
function Face({
  frame,
  work,
  over,
  step,
  exposed,
}: {
  frame: Frame;
  work: RunWork;
  over: number;
  step: (by: number) => void;
  exposed: (seconds: number) => void;
}) {
  const { sheet, found, run } = work;
  const set = found.settings[frame.key];
  const shutter = set?.shutter ?? frame.shutter;
  const iso = set?.iso ?? frame.iso;
  const before = sheet.frames[sheet.frames.indexOf(frame) - 1];

  const turned = (name: "focus" | "shutter" | "aperture" | "iso") => (before && before[name] !== frame[name] ? "set anew" : "");

  const index = sheet.frames.findIndex((item) => item.key === frame.key);
  const group = sheet.groups.find((item) => item.at === frame.group);
  const mine = run.frames[frame.key];
  const next = sheet.frames[index + 1];
  return (
    <>
      <Box display="grid" gridTemplateColumns="56px 1fr 56px" alignItems="center" gap="8px">
        <Thumb onClick={() => step(-1)} disabled={index <= 0} aria-label="the frame before">
          ‹
        </Thumb>
        <Box textAlign="center" fontSize="17px">
          <b>
            Frame {frame.number} of {sheet.frames.length}
          </b>
          {sheet.groups.length > 1 && `, ${group?.name ?? ""}`}
          <Box color="muted" fontSize="15px">
            {isOver(mine)
              ? mine?.skipped
                ? "skipped"
                : `taken${(mine?.taken ?? 0) > 1 ? ` ${mine?.taken} times` : ""}`
              : `${over} done`}
          </Box>
        </Box>
        <Thumb onClick={() => step(1)} disabled={index >= sheet.frames.length - 1} aria-label="the frame after">
          ›
        </Thumb>
      </Box>
      <Box as="ol" display="grid" gap="2px" fontSize="20px" lineHeight="1.3" aria-label="Do this first">
        {frame.actions.map((words) => (
          <li key={words}>{/^(Put|Take)/.test(words) ? <b>{words}</b> : words}</li>
        ))}
      </Box>
      <Box display="grid" gridTemplateColumns="1fr 1fr" gap="6px 14px" data-figures="">
        <Big name={frame.focus_at} value={frame.focus} note={turned("focus")} />
        <Big name="shutter" value={shutter} note={set && set.shutter !== frame.shutter ? "as found" : turned("shutter")} />
        <Big name="aperture" value={frame.aperture} note={turned("aperture")} />
        <Big name="ISO" value={iso} note={set && set.iso !== frame.iso ? "as found" : turned("iso")} />
      </Box>
      <Box fontSize="16px" color="muted">
        {frame.aim || sheet.aim}
        {" · "}
        {frame.on_lens.length ? `on the lens: ${frame.on_lens.join(" + ")}` : "no filter on"}
        {frame.bulb && " · bulb"}
      </Box>
      <Countdown
        key={frame.key}
        spans={spansOf(frame, sheet, set)}
        done={(seconds) => {
          if (seconds !== null) exposed(seconds);
        }}
      />
      <Box fontSize="16px" color="muted" borderTop="1px solid" borderColor="line" pt="6px">
        {next
          ? `Next: ${[...next.actions, ...next.settings].join(", ") || "the same again"}`
          : `Then: ${sheet.last_actions.join(", ") || "done"}`}
      </Box>
    </>
  );
}

type SetTo = RunWork["found"]["settings"][string];

/** What is waited for around a frame: with settings as found, the exposure and the dark frame after it last as long as those say. */
function spansOf(frame: Frame, sheet: Schemas["RunSheetOut"], set: SetTo | undefined): Span[] {
  const spans = frame.phases.map(({ kind, words, seconds, ...phase }) => ({
    kind,
    words,
    seconds: kind === "event" ? untilS(phase, sheet) : kind === "exposure" && set ? set.shutter_s : seconds,
  }));
  if (!set) return spans;
  const others = spans.filter((span) => span.kind !== "dark frame");
  return [...others, { kind: "dark frame", words: "dark frame", seconds: set.dark_s }];
}

function untilS(phase: Pick<Schemas["PhaseOut"], "at_s">, sheet: Schemas["RunSheetOut"]): number {
  if (phase.at_s === null || !sheet.start_utc) return 0;
  const left = (Date.parse(sheet.start_utc) - Date.now()) / 1000 + phase.at_s;
  // Days before, or long after, there is nothing to wait for here.
  return left > 0 && left < 12 * 3600 ? left : 0;
}

/** note: why it is to be looked at: it differs from the frame before, or from the plan. */
function Big({ name, value, note }: { name: string; value: string; note: string }) {
  return (
    <Box minW="0">
      <Box fontSize="15px" color="muted">
        {name}
        {note && (
          <Box as="span" color="accent">
            {" "}
            ◂ {note}
          </Box>
        )}
      </Box>
      <Box
        fontFamily="mono"
        fontWeight="600"
        fontSize={value.length > 8 ? "27px" : "42px"}
        lineHeight="1.1"
        overflowWrap="anywhere"
      >
        {value}
      </Box>
    </Box>
  );
}

function Done({ work }: { work: RunWork }) {
  const { sheet, run } = work;
  const taken = Object.values(run.frames).reduce((sum, frame) => sum + frame.taken, 0);
  return (
    <Box display="grid" gap="10px" fontSize="20px">
      <Box fontWeight="700" fontSize="26px">
        All frames are done
      </Box>
      <div>
        {taken} taken, {Object.values(run.frames).filter((frame) => frame.skipped).length} skipped.
      </div>
      {sheet.last_actions.map((words) => (
        <b key={words}>{words}</b>
      ))}
      <Box display="grid" gridTemplateColumns="1fr 1fr" gap="8px">
        {run.ended === null && (
          <Thumb look="main" onClick={() => void work.tell("ended")}>
            End here
          </Thumb>
        )}
        <Thumb onClick={() => void work.begin()}>Begin anew</Thumb>
      </Box>
    </Box>
  );
}
