import { Box } from "@chakra-ui/react";
import makeCode from "qrcode-generator";
import { useEffect, useState } from "react";
import { TextBox } from "../parts/Field";
import { saveAs } from "../parts/saveAs";
import { codesOf, parcelOf, readParcel } from "./parcel";
import { Thumb } from "./Thumb";
import type { RunWork } from "./useRun";

/** What happened as a small file, a text, or codes on the screen; and back in again. */
export function TakeOut({ work }: { work: RunWork }) {
  const [told, setTold] = useState("");
  const [codes, setCodes] = useState<string[] | null>(null);
  const [pasted, setPasted] = useState("");
  const cardId = work.events.find((event) => event.card_id)?.card_id ?? 0;
  const text = JSON.stringify(parcelOf(cardId, work.events));
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
  if (codes) return <Codes codes={codes} close={() => setCodes(null)} />;
  return (
    <Box display="grid" gap="12px" fontSize="17px">
      <div>
        {work.events.length} {work.events.length === 1 ? "event" : "events"} on this device. Read them in under Logbook, “Read in
        from the field”.
      </div>
      {shareable && (
        <Thumb
          onClick={() => {
            void navigator.share({ files: [file], title: name }).catch(() => undefined);
          }}
        >
          Share as a file
        </Thumb>
      )}
      <Thumb onClick={() => saveAs(file, name)}>Save as a file</Thumb>
      <Thumb
        onClick={() =>
          void navigator.clipboard.writeText(text).then(
            () => setTold("Copied."),
            () => setTold("This browser does not let the text be copied: save it as a file."),
          )
        }
      >
        Copy as text
      </Thumb>
      <Thumb onClick={() => void codesOf(parcelOf(cardId, work.events)).then(setCodes)}>Show as codes</Thumb>
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
        <div>Another day with the same card? What happened so far stays in the log.</div>
        <Thumb onClick={() => void work.begin()}>Begin a new time out</Thumb>
      </Box>
      <Box role="status">{told}</Box>
    </Box>
  );
}

/** Codes one after the other; they are dark on light in every theme, since cameras read no others. */
function Codes({ codes, close }: { codes: string[]; close: () => void }) {
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
      <Box fontSize="18px" aria-live="polite">
        Code {at + 1} of {codes.length}
      </Box>
      <Box display="grid" gridTemplateColumns="repeat(3, 1fr)" gap="8px" width="100%">
        <Thumb onClick={() => setAt((at + 1) % codes.length)}>Next</Thumb>
        <Thumb onClick={() => setRuns(!runs)}>{runs ? "Hold" : "Run"}</Thumb>
        <Thumb onClick={close}>Back</Thumb>
      </Box>
    </Box>
  );
}

function Code({ text }: { text: string }) {
  const code = makeCode(0, "L");
  code.addData(text);
  code.make();
  const size = code.getModuleCount();
  let path = "";
  for (let row = 0; row < size; row++)
    for (let column = 0; column < size; column++) if (code.isDark(row, column)) path += `M${column + 4} ${row + 4}h1v1h-1z`;
  return (
    <Box bg="#fff" width="min(100%, 340px)" css={{ "[data-theme=ember] &": { background: "#f00" } }}>
      <svg viewBox={`0 0 ${size + 8} ${size + 8}`} width="100%" role="img" aria-label="A code to be photographed">
        <path d={path} fill="#000" />
      </svg>
    </Box>
  );
}
