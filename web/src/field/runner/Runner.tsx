import { Box } from "@chakra-ui/react";
import { useEffect, useRef, useState } from "react";
import type { Schemas } from "../../api/client";
import { dayText } from "../../lib/format/spelling";
import { countedExposureS, dismissCountdown, useCountdown } from "../offline/countdowns";
import { isOver } from "../offline/events";
import { spansOf } from "../offline/spans";
import type { RunWork } from "../offline/useRun";
import { Countdown, CountdownBar } from "./Countdown";
import { FrameFigures } from "./FrameFigures";
import { Gloves, useGloves } from "./Gloves";
import { LightLeft } from "./LightLeft";
import { More, type Panel } from "./More";
import { StartAgain } from "./StartAgain";
import { say } from "./speech";
import { Thumb } from "./Thumb";
import { useAwake } from "./useAwake";

type Frame = Schemas["RunFrameOut"];

// Two presses within this are one [ms].
const ONE_PRESS_MS = 700;
// So long a tick can be undone where the thumb is [ms].
const UNDO_MS = 5000;

/** One frame at a time, in figures that are read at arm's length. */
export function Runner({ work, aspects, head }: { work: RunWork; aspects: string[]; head?: React.ReactNode }) {
  const { sheet, run, now } = work;
  const awake = useAwake();
  const [gloves, wear] = useGloves();
  const [panel, setPanel] = useState<Panel | null>(null);
  const [looked, setLooked] = useState<string | null>(null);
  const [ticked, setTicked] = useTicked();
  const pressed = useRef(Number.NEGATIVE_INFINITY);
  const counting = useCountdown();
  const frame = sheet.frames.find((item) => item.key === looked) ?? now;
  const over = sheet.frames.filter((item) => isOver(run.frames[item.key])).length;
  const step = (by: number) => {
    const index = sheet.frames.findIndex((item) => item.key === frame?.key) + by;
    setLooked(sheet.frames[index]?.key ?? null);
  };
  const tick = async (kind: "taken" | "skipped") => {
    // Cold fingers press twice: a second press so soon is the same one.
    if (!frame || performance.now() - pressed.current < ONE_PRESS_MS) return;
    pressed.current = performance.now();
    const counted = kind === "taken" ? countedExposureS(work.runId, frame.key) : null;
    setLooked(null);
    setTicked(frame.number);
    sayNext(sheet, frame);
    await work.tell(kind, { frame: frame.key, ...(counted !== null && { shutter_s: counted }) });
    if (counting?.run_id === work.runId && counting.frame === frame.key && counting.at === -1) dismissCountdown();
  };
  const open = (next: Panel) => {
    // The message there is not about the tick that the undo beside the thumb names.
    setTicked(null);
    setPanel(next);
  };
  const undo = () => {
    pressed.current = Number.NEGATIVE_INFINITY;
    setTicked(null);
    void work.undo();
  };
  if (gloves && frame && !work.resumed)
    return (
      <Gloves
        work={work}
        frame={frame}
        ticked={ticked}
        take={() => void tick("taken")}
        undo={undo}
        unlock={() => wear(false)}
      />
    );
  return (
    <Box
      as="main"
      id="main"
      tabIndex={-1}
      outline="none"
      maxW="560px"
      mx="auto"
      px="12px"
      pb="16px"
      display="grid"
      gap="12px"
    >
      <Box display="flex" alignItems="baseline" justifyContent="space-between" gap="10px" pt="8px">
        <Box as="h1" fontSize="heading" fontWeight="700" minW="0">
          {sheet.name}
          {sheet.outing && (
            <Box as="span" display="block" fontSize="small" fontWeight="400">
              {sheet.outing}
              {sheet.date && `, ${dayText(sheet.date, true)}`}
            </Box>
          )}
        </Box>
        {head}
      </Box>
      <CountdownBar shown={!panel && !work.resumed && frame ? { run_id: work.runId, frame: frame.key } : null} />
      <LightLeft sheet={sheet} lateMin={run.lateMin} />
      <Told work={work} awake={awake} />
      {work.resumed && !panel ? (
        <Resumed work={work} resumed={work.resumed} />
      ) : panel ? (
        <More panel={panel} work={work} aspects={aspects} frame={frame} close={() => setPanel(null)} />
      ) : frame ? (
        <Face frame={frame} work={work} over={over} step={step} />
      ) : (
        <Done work={work} />
      )}
      {!panel && !work.resumed && (frame || ticked !== null) && (
        <Box display="grid" gridTemplateColumns="2fr 1fr" gap="8px" position="sticky" bottom="0" bg="bg" py="6px">
          <Thumb look="main" minH="72px" fontSize="title" onClick={() => void tick("taken")} disabled={!frame}>
            Taken
          </Thumb>
          {ticked !== null ? (
            <Thumb onClick={undo}>{`Undo frame\u00a0${ticked}`}</Thumb>
          ) : isOver(run.frames[frame?.key ?? ""]) ? (
            <Thumb onClick={() => void work.tell("again", { frame: frame?.key ?? "" }).then(() => setLooked(null))}>
              Again
            </Thumb>
          ) : (
            <Thumb onClick={() => void tick("skipped")}>Skip</Thumb>
          )}
        </Box>
      )}
      {!panel && (
        <Box display="grid" gridTemplateColumns="repeat(3, 1fr)" gap="8px">
          <Thumb onClick={undo} disabled={work.events.length === 0}>
            Undo
          </Thumb>
          <Thumb onClick={() => open("differs")}>It differs</Thumb>
          <Thumb onClick={() => open("note")}>Note</Thumb>
          <Thumb onClick={() => open("checks")}>Checks</Thumb>
          <Thumb onClick={() => open("waves")}>Waves</Thumb>
          <Thumb onClick={() => open("out")}>Export</Thumb>
          {frame && !work.resumed && (
            <Thumb gridColumn="1 / -1" onClick={() => wear(true)}>
              Gloves and rain: hold to tick
            </Thumb>
          )}
        </Box>
      )}
    </Box>
  );
}

/** What comes next, said aloud where that is wanted. */
function sayNext(sheet: Schemas["RunSheetOut"], frame: Frame): void {
  const next = sheet.frames[sheet.frames.indexOf(frame) + 1];
  const words = next
    ? [...next.actions, ...next.settings].join(", ") || "the same again"
    : sheet.last_actions.join(", ") || "done";
  say(`${next ? "Next" : "Then"}: ${words}`);
}

/** The frame just ticked, for as long as its undo stands beside the thumb. */
function useTicked(): [number | null, (number: number | null) => void] {
  const [ticked, setTicked] = useState<{ number: number } | null>(null);
  useEffect(() => {
    if (!ticked) return;
    const timer = window.setTimeout(() => setTicked(null), UNDO_MS);
    return () => window.clearTimeout(timer);
  }, [ticked]);
  return [ticked?.number ?? null, (number) => setTicked(number === null ? null : { number })];
}

/** A session of long ago is not continued without asking. */
function Resumed({ work, resumed }: { work: RunWork; resumed: NonNullable<RunWork["resumed"]> }) {
  return (
    <Box display="grid" gap="10px" fontSize="heading" role="group" aria-label="Go on or start again">
      <div>
        You were out with this card on {dayText(resumed.at_utc.slice(0, 10), true)}: {resumed.taken} of{" "}
        {work.sheet.frames.length} taken. What happened then stays in the log.
      </div>
      <Box display="grid" gridTemplateColumns="1fr 1fr" gap="8px">
        <Thumb look="main" onClick={() => void work.begin()}>
          Start again
        </Thumb>
        <Thumb onClick={() => void work.goOn()}>Go on</Thumb>
      </Box>
    </Box>
  );
}

function Told({ work, awake }: { work: RunWork; awake: boolean }) {
  const { found, waiting, behind, trouble, sheet } = work;
  const mark = found.mark === "fails" ? "▲ " : found.mark === "tight" ? "◐ " : "";
  return (
    <>
      {found.words && (
        <Box role="status" fontSize="lead" color={found.mark === "fails" ? "rust" : "fg"} data-found="">
          {mark}
          {found.words}
        </Box>
      )}
      {trouble && (
        <Box role="alert" fontSize="lead" color="rust">
          {trouble}
        </Box>
      )}
      {behind && (
        <Box role="status" fontSize="lead" color="rust" data-behind="">
          ◐ The server is away: what differs is planned with when it is back. Until then only the tables answer.
        </Box>
      )}
      {waiting > 0 && (
        <Box role="status" fontSize="body" color="haze" data-waiting={waiting}>
          {waiting}{" "}
          {work.served
            ? `${waiting === 1 ? "entry waits" : "entries wait"} on this device for the server.`
            : `${waiting === 1 ? "entry is" : "entries are"} on this device only: “Export” saves ${waiting === 1 ? "it" : "them"}.`}
        </Box>
      )}
      {!awake && (
        <Box fontSize="body" color="muted">
          This screen may go dark by itself: set it to stay on.
        </Box>
      )}
      {sheet.predicted && !work.run.light && (
        <Box fontSize="lead" color="rust">
          ◐ The exposure is predicted, not metered: meter first, under “It differs”.
        </Box>
      )}
    </>
  );
}

/** The frame at hand: what the hand does, then the figures, then the countdown. */
function Face({ frame, work, over, step }: { frame: Frame; work: RunWork; over: number; step: (by: number) => void }) {
  const { sheet, found, run } = work;
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
        <Box textAlign="center" fontSize="heading">
          <b>
            Frame {frame.number} of {sheet.frames.length}
          </b>
          {sheet.groups.length > 1 && `, ${group?.name ?? ""}`}
          <Box color="muted" fontSize="body">
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
      <FrameFigures frame={frame} work={work} />
      <Countdown
        spans={spansOf(frame, sheet, found.settings[frame.key])}
        of={{ run_id: work.runId, card_id: work.cardId, name: sheet.name, frame: frame.key, number: frame.number }}
      />
      <Box fontSize="lead" color="muted" borderTop="1px solid" borderColor="line" pt="6px">
        {next
          ? `Next: ${[...next.actions, ...next.settings].join(", ") || "the same again"}`
          : `Then: ${sheet.last_actions.join(", ") || "done"}`}
      </Box>
    </>
  );
}

function Done({ work }: { work: RunWork }) {
  const { sheet, run } = work;
  const taken = Object.values(run.frames).reduce((sum, frame) => sum + frame.taken, 0);
  return (
    <Box display="grid" gap="10px" fontSize="heading">
      <Box fontWeight="700" fontSize="title">
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
        <StartAgain work={work} />
      </Box>
    </Box>
  );
}
