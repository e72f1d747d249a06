import { Box } from "@chakra-ui/react";
import { useInfiniteQuery, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { client, type Schemas, take } from "../api/client";
import { logEntryQuery, logQuery, waitingFilesQuery } from "../api/queries";
import { useAct } from "../lib/drafts/useAct";
import { Button } from "../ui/form/Button";
import { Field, SelectBox } from "../ui/form/Field";
import { Failed, Pending } from "../ui/layout/States";
import { UndoBar } from "../ui/overlay/UndoBar";
import { Preview } from "./Preview";

type File = Schemas["WaitingFileOut"];
const ANY = { words: "", location_id: null, subject: "", light: "", look: "", lens: "", outcome: null };

/** Files that were read in and are in no entry: each can be given its time or its place, or be removed. */
export function Waiting() {
  const query = useQuery(waitingFilesQuery());
  if (query.error) return <Failed error={query.error} retry={() => void query.refetch()} />;
  if (!query.data) return <Pending what="the files" />;
  return (
    <Box flex="1 0 100%" display="grid" gap="0" data-waiting="">
      <UndoBar undo={query.data.undo} scopes={["log"]} />
      {query.data.files.map((file) => (
        <One key={file.id} file={file} />
      ))}
    </Box>
  );
}

function One({ file }: { file: File }) {
  const [entry, setEntry] = useState<number | null>(null);
  const change = useAct(
    (body: Schemas["WaitingPatch"]) =>
      take(client.PATCH("/api/log/waiting/{frame_id}", { params: { path: { frame_id: file.id } }, body })),
    { quiet: true, only: ["log"] },
  );
  const remove = useAct(
    () => take(client.DELETE("/api/log/frames/{frame_id}", { params: { path: { frame_id: file.id } } })),
    {
      only: ["log"],
    },
  );
  return (
    <Box
      display="grid"
      gridTemplateColumns={{ base: "84px minmax(0, 1fr)", lg: "84px minmax(0, 1fr) 200px minmax(0, 340px) auto" }}
      gap="6px 14px"
      alignItems="center"
      py="6px"
      borderTop="1px solid"
      borderColor="line"
    >
      <Box bg="raised" lineHeight="0" minH="48px">
        <Preview id={file.id} name={file.file_name} maxH="64px" />
      </Box>
      <Box minW="0" fontSize="body">
        <Box fontWeight="600">{file.file_name}</Box>
        <Box color="muted" fontSize="small">
          {[file.settings, file.camera, file.why].filter(Boolean).join(" · ")}
        </Box>
      </Box>
      <Field
        label="Taken at"
        name={`waiting:${file.id}:clock`}
        value={file.clock?.replace("T", " ") ?? ""}
        placeholder="2026-11-26 16:04"
        save={async (text) => {
          const clock = /^(\d{4}-\d\d-\d\d)[ T](\d\d:\d\d)(:\d\d)?$/.exec(text.trim());
          if (!clock) throw new Error("Write day and time as 2026-11-26 16:04.");
          await change.mutateAsync({ clock: `${clock[1]}T${clock[2]}${clock[3] ?? ":00"}` });
        }}
      />
      <Place
        entry={entry}
        choose={setEntry}
        place={(after) => change.mutate({ ...(entry !== null ? { entry_id: entry } : {}), after_frame_id: after })}
        name={file.file_name}
      />
      <Button look="quiet" disabled={remove.isPending} onClick={() => remove.mutate(undefined)}>
        remove
      </Button>
    </Box>
  );
}

/** Its entry, and after which frame of it. */
function Place({
  entry,
  choose,
  place,
  name,
}: {
  entry: number | null;
  choose: (entry: number | null) => void;
  place: (after: number | null) => void;
  name: string;
}) {
  const listed = useInfiniteQuery(logQuery(ANY));
  const chosen = useQuery({ ...logEntryQuery(entry ?? 0), enabled: entry !== null });
  const [after, setAfter] = useState("");
  const entries = listed.data?.pages.flatMap((page) => page.entries) ?? [];
  return (
    <Box display="grid" gap="4px">
      <SelectBox
        aria-label={`Entry of ${name}`}
        fontSize="body"
        value={String(entry ?? "")}
        onChange={(event) => choose(event.target.value ? Number(event.target.value) : null)}
      >
        <option value="">or: in which entry?</option>
        {entries.map((item) => (
          <option key={item.id} value={item.id}>
            {item.name}, {item.taken_words}
          </option>
        ))}
      </SelectBox>
      {entry !== null && (
        <Box display="flex" gap="6px">
          <SelectBox
            aria-label={`Place of ${name}`}
            fontSize="body"
            value={after}
            onChange={(event) => setAfter(event.target.value)}
          >
            <option value="">at its beginning</option>
            {(chosen.data?.frames ?? []).map((frame) => (
              <option key={frame.id} value={frame.id}>
                after {frame.file_name || frame.planned || frame.taken_clock}
              </option>
            ))}
          </SelectBox>
          <Button onClick={() => place(after ? Number(after) : null)}>Place</Button>
        </Box>
      )}
    </Box>
  );
}
