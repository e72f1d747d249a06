import { Box } from "@chakra-ui/react";
import { useEffect, useMemo, useState } from "react";
import { saveAs } from "../../lib/format/saveAs";
import { TextBox } from "../../ui/form/Field";
import { Code } from "../../ui/layout/Code";
import { allEvents } from "../offline/eventStore";
import { type FieldEvent, merged } from "../offline/events";
import { codesOf, parcelOf, readParcel } from "../offline/parcel";
import type { RunWork } from "../offline/useRun";
import { StartAgain } from "./StartAgain";
import { Thumb } from "./Thumb";

/** What happened as a small file, a text, or codes on the screen; and back in again. */
export function TakeOut({ work }: { work: RunWork }) {
  const [told, setTold] = useState("");
  const [codes, setCodes] = useState<string[] | null>(null);
  const [pasted, setPasted] = useState("");
  const events = useAllEvents(work.events);
  const parcel = parcelOf(work.cardId, events);
  const text = JSON.stringify(parcel);
  const out = () => work.takenOut(events.map((event) => event.id));
  const name = `${work.sheet.name.toLowerCase().replace(/[^a-z0-9]+/g, "-")}-events.json`;
  const file = new File([text], name, { type: "application/json" });
  const shareable = typeof navigator.canShare === "function" && navigator.canShare({ files: [file] });
  const takeIn = async () => {
    try {
      const events = readParcel(pasted);
      await work.takeInEvents(events);
      setPasted("");
      setTold(`${events.length} events read in.`);
    } catch (failure) {
      setTold(failure instanceof Error ? failure.message : "That could not be read.");
    }
  };
  if (codes)
    return (
      <Codes
        codes={codes}
        close={(photographed) => {
          setCodes(null);
          if (photographed) void out();
        }}
      />
    );
  return (
    <Box display="grid" gap="12px" fontSize="heading">
      <div>
        {events.length} {events.length === 1 ? "event" : "events"} on this device, of all cards and sessions. Read them
        in under Logbook, “Read in from the field”.
      </div>
      {shareable && (
        <Thumb
          onClick={() => {
            void navigator.share({ files: [file], title: name }).then(out, () => undefined);
          }}
        >
          Share as a file
        </Thumb>
      )}
      <Thumb
        onClick={() => {
          saveAs(file, name);
          void out();
        }}
      >
        Save as a file
      </Thumb>
      <Thumb
        onClick={() =>
          void navigator.clipboard.writeText(text).then(
            () => {
              setTold("Copied.");
              void out();
            },
            () => setTold("This browser does not let the text be copied: save it as a file."),
          )
        }
      >
        Copy as text
      </Thumb>
      <Thumb onClick={() => void codesOf(parcel).then(setCodes)}>Show as codes</Thumb>
      <Box display="grid" gap="8px" borderTop="1px solid" borderColor="line" pt="8px">
        <TextBox
          aria-label="Text from another device"
          rows={3}
          value={pasted}
          placeholder="Paste what another device took out"
          onChange={(event) => setPasted(event.target.value)}
        />
        <Thumb disabled={!pasted.trim()} onClick={() => void takeIn()}>
          Read in
        </Thumb>
      </Box>
      <Box display="grid" gap="8px" borderTop="1px solid" borderColor="line" pt="8px">
        <div>Another day with the same card?</div>
        <StartAgain work={work} />
      </Box>
      <Box role="status">{told}</Box>
    </Box>
  );
}

/** Everything on this device, of all cards and sessions; own: of the session shown, known also where the browser keeps nothing. */
function useAllEvents(own: FieldEvent[]): FieldEvent[] {
  const [kept, setKept] = useState<FieldEvent[]>([]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: whatever happens here is kept, and read again.
  useEffect(() => {
    void allEvents().then(setKept, () => undefined);
  }, [own]);
  return useMemo(() => merged(kept, own), [kept, own]);
}

/** Codes one after the other; they are dark on light in every theme, since cameras read no others. */
function Codes({ codes, close }: { codes: string[]; close: (photographed: boolean) => void }) {
  const [at, setAt] = useState(0);
  const [runs, setRuns] = useState(codes.length > 1);
  useEffect(() => {
    if (!runs) return;
    const timer = window.setInterval(() => setAt((before) => (before + 1) % codes.length), 1200);
    return () => window.clearInterval(timer);
  }, [runs, codes.length]);
  return (
    <Box display="grid" gap="10px" justifyItems="center">
      <Code text={codes[at] ?? ""} />
      <Box fontSize="heading" aria-live="polite">
        Code {at + 1} of {codes.length}
      </Box>
      <Box display="grid" gridTemplateColumns="repeat(3, 1fr)" gap="8px" width="100%">
        <Thumb onClick={() => setAt((at + 1) % codes.length)}>Next</Thumb>
        <Thumb onClick={() => setRuns(!runs)}>{runs ? "Hold" : "Run"}</Thumb>
        <Thumb onClick={() => close(false)}>Back</Thumb>
        <Thumb gridColumn="1 / -1" onClick={() => close(true)}>
          All of them are photographed
        </Thumb>
      </Box>
    </Box>
  );
}
