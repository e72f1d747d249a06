import { Box, chakra } from "@chakra-ui/react";
import { useQueryClient } from "@tanstack/react-query";
import { type DragEvent, useRef, useState } from "react";
import { client, type Schemas, take } from "../api/client";
import { refreshPlans } from "../api/queries";
import { upload } from "../api/upload";
import { readCodes, readParcel } from "../field/offline/parcel";
import { plural } from "../lib/format/spelling";
import { Button } from "../ui/form/Button";
import { TextBox } from "../ui/form/Field";
import { Dialog } from "../ui/overlay/Dialog";
import { Waiting } from "./Waiting";

const AT_ONCE = 50;
const SENT_AT_ONCE = 200;

interface Progress {
  done: number;
  of: number;
  known: number;
  refused: { name: string; why: string }[];
}

/** Files of a camera, read in one after the other: what the log has already is not sent, what is broken is named, and one may stop. */
export function ReadIn({ waiting }: { waiting: number }) {
  const queries = useQueryClient();
  const input = useRef<HTMLInputElement>(null);
  const folder = useRef<HTMLInputElement>(null);
  const stop = useRef(false);
  const [progress, setProgress] = useState<Progress | null>(null);
  const [running, setRunning] = useState(false);
  const [told, setTold] = useState("");
  const [out, setOut] = useState(false);
  const [over, setOver] = useState(false);
  const [shows, setShows] = useState(false);

  const sort = async () => {
    const answer = await take(client.POST("/api/log/sort"));
    setTold(answer.words);
    refreshPlans(queries, ["log"]);
  };
  const read = async (files: File[]) => {
    if (running || !files.length) return;
    stop.current = false;
    setRunning(true);
    setTold("");
    const state: Progress = { done: 0, of: files.length, known: 0, refused: [] };
    setProgress({ ...state });
    try {
      for (let from = 0; from < files.length && !stop.current; from += AT_ONCE) {
        const part = files.slice(from, from + AT_ONCE);
        const hashes = await Promise.all(part.map(hashOf));
        const known = new Set(
          (await take(client.POST("/api/log/known", { body: { sha256: hashes.filter(Boolean) } }))).known,
        );
        for (const [index, file] of part.entries()) {
          if (stop.current) break;
          if (known.has(hashes[index] ?? "")) state.known += 1;
          else {
            try {
              await upload<Schemas["ReadInOut"]>("/api/log/files", file);
            } catch (failure) {
              state.refused.push({ name: file.name, why: (failure as Error).message });
            }
          }
          state.done += 1;
          setProgress({ ...state });
        }
      }
      await sort();
    } catch (failure) {
      setTold((failure as Error).message);
    } finally {
      setRunning(false);
    }
  };
  const drop = (event: DragEvent) => {
    event.preventDefault();
    setOver(false);
    void read([...event.dataTransfer.files]);
  };
  return (
    <Box
      bg={over ? "raised" : "panel"}
      border="1px dashed"
      borderColor={over ? "accent" : "line"}
      px="12px"
      py="8px"
      display="flex"
      gap="8px 14px"
      alignItems="center"
      flexWrap="wrap"
      onDragOver={(event) => {
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={drop}
      aria-label="Read files in"
      role="region"
    >
      <Button disabled={running} onClick={() => input.current?.click()}>
        Read files in
      </Button>
      <Button look="quiet" disabled={running} onClick={() => folder.current?.click()}>
        a whole folder
      </Button>
      <Button look="quiet" onClick={() => setOut(true)}>
        from the field
      </Button>
      <Box color="muted" fontSize="body" flex="1" minW="220px">
        {progress === null
          ? "JPEG, HEIC, TIFF, DNG and raw files, or drop them here. Originals stay as they are; facts and a small preview are kept on this machine."
          : `${progress.done} of ${progress.of} read${progress.known ? `, ${progress.known} known before` : ""}${progress.refused.length ? `, ${progress.refused.length} refused` : ""}.`}
      </Box>
      {running && (
        <Button
          onClick={() => {
            stop.current = true;
          }}
        >
          Stop
        </Button>
      )}
      {!running && waiting > 0 && (
        <>
          <Button onClick={() => void sort()}>Sort {plural(waiting, "file")}</Button>
          <Button look="quiet" aria-expanded={shows} onClick={() => setShows(!shows)}>
            {shows ? "hide them" : "see them"}
          </Button>
        </>
      )}
      {shows && waiting > 0 && <Waiting />}
      {told && (
        <Box role="status" flex="1 0 100%" fontSize="body">
          {told}
        </Box>
      )}
      {progress?.refused.slice(0, 8).map((item) => (
        <Box key={item.name} role="alert" color="rust" fontSize="small" flex="1 0 100%">
          {item.name}: {item.why}
        </Box>
      ))}
      <Pick refer={input} label="Files of the camera" read={read} />
      <Pick refer={folder} label="A folder of the camera" read={read} folder />
      {out && <FromTheField close={() => setOut(false)} />}
    </Box>
  );
}

function Pick({
  refer,
  label,
  read,
  folder = false,
}: {
  refer: React.RefObject<HTMLInputElement | null>;
  label: string;
  read: (files: File[]) => Promise<void>;
  folder?: boolean;
}) {
  return (
    <chakra.input
      ref={refer}
      type="file"
      multiple
      aria-label={label}
      position="absolute"
      width="1px"
      height="1px"
      opacity="0"
      pointerEvents="none"
      tabIndex={-1}
      {...(folder ? { webkitdirectory: "" } : {})}
      onChange={(event) => {
        void read([...(event.target.files ?? [])]);
        event.target.value = "";
      }}
    />
  );
}

async function hashOf(file: File): Promise<string> {
  if (!globalThis.crypto?.subtle) return "";
  const bytes = new Uint8Array(await crypto.subtle.digest("SHA-256", await file.arrayBuffer()));
  return [...bytes].map((byte) => byte.toString(16).padStart(2, "0")).join("");
}

/** What a phone took out without a network: its file, its text, or photographs of its codes. */
function FromTheField({ close }: { close: () => void }) {
  const queries = useQueryClient();
  const [text, setText] = useState("");
  const [told, setTold] = useState("");
  const send = async (parcel: string) => {
    const events = readParcel(parcel);
    for (let from = 0; from < events.length; from += SENT_AT_ONCE)
      await take(client.POST("/api/field/events", { body: { events: events.slice(from, from + SENT_AT_ONCE) } }));
    refreshPlans(queries, ["log"]);
    setTold(`${plural(events.length, "event")} read in; sent twice they count once.`);
  };
  const attempt = async (act: () => Promise<void>) => {
    try {
      await act();
    } catch (failure) {
      setTold((failure as Error).message);
    }
  };
  const files = (chosen: File[]) =>
    attempt(async () => {
      const pictures = chosen.filter((file) => file.type.startsWith("image/"));
      for (const file of chosen.filter((item) => !item.type.startsWith("image/"))) await send(await file.text());
      if (!pictures.length) return;
      const read = await readCodes((await Promise.all(pictures.map(codeIn))).filter((code) => code !== null));
      if ("lacking" in read)
        throw new Error(`Codes ${read.lacking.join(", ")} are still lacking: choose all pictures together.`);
      await send(read.text);
    });
  return (
    <Dialog title="Read in from the field" close={close}>
      <Box display="grid" gap="12px" maxW="520px">
        <Box as="label" display="grid" gap="4px">
          The file that was taken out, or photographs of all its codes
          <input
            type="file"
            multiple
            accept=".json,application/json,image/*"
            onChange={(event) => void files([...(event.target.files ?? [])])}
          />
        </Box>
        <TextBox
          aria-label="Text that was taken out"
          rows={4}
          placeholder="or paste its text"
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
        <Button disabled={!text.trim()} onClick={() => void attempt(() => send(text))}>
          Read the text in
        </Button>
        <Box role="status">{told}</Box>
      </Box>
    </Dialog>
  );
}

/** The text of a code in a photograph; null where none is found. */
async function codeIn(file: File): Promise<string | null> {
  const { default: readCode } = await import("jsqr");
  const image = await createImageBitmap(file);
  const share = Math.min(1, 1200 / Math.max(image.width, image.height));
  const canvas = document.createElement("canvas");
  canvas.width = Math.round(image.width * share);
  canvas.height = Math.round(image.height * share);
  const drawing = canvas.getContext("2d");
  if (!drawing) return null;
  drawing.drawImage(image, 0, 0, canvas.width, canvas.height);
  const { data } = drawing.getImageData(0, 0, canvas.width, canvas.height);
  return readCode(data, canvas.width, canvas.height)?.data ?? null;
}
