import { Box } from "@chakra-ui/react";
import { useInfiniteQuery, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { client, type Schemas, take } from "../api/client";
import { OPTIONS } from "../api/facts";
import { type LogSought, locationsQuery, logQuery } from "../api/queries";
import { useAct } from "../lib/drafts/useAct";
import { useSettled } from "../lib/drafts/useSettled";
import { useStored } from "../lib/drafts/useStored";
import { plural } from "../lib/format/spelling";
import { Button } from "../ui/form/Button";
import { Input, SelectBox } from "../ui/form/Field";
import { NewForm } from "../ui/form/NewForm";
import { Empty, Failed, Pending } from "../ui/layout/States";
import { UndoBar } from "../ui/overlay/UndoBar";
import { lightLabel } from "./entry";
import { Pictures } from "./Pictures";
import { ReadIn } from "./ReadIn";

const ANY: LogSought = { words: "", location_id: null, subject: "", light: "", look: "", lens: "", outcome: null };

/** The entries, found by what one remembers of them; files and what a phone took out are read in here. */
export function Entries() {
  const [sought, setSought] = useState(ANY);
  const [adding, setAdding] = useState(false);
  const [listed, setListed] = useStored("logbook:listed");
  const settled = useSettled(sought, 200);
  const query = useInfiniteQuery(logQuery(settled));
  const pages = query.data?.pages;
  const first = pages?.[0];
  if (query.error && !first) return <Failed error={query.error} retry={() => void query.refetch()} />;
  if (!first) return <Pending what="the log" />;
  const entries = pages.flatMap((page) => page.entries);
  return (
    <Box display="grid" gap="10px" pt="6px">
      <Box display="flex" gap="10px" alignItems="center" flexWrap="wrap">
        <Sought sought={sought} kinds={first.kinds} change={(part) => setSought({ ...sought, ...part })} />
        <Box flex="1" />
        <UndoBar undo={first.undo} scopes={["log"]} />
        <Button onClick={() => setAdding(!adding)}>Log by hand</Button>
      </Box>
      {adding && <ByHand close={() => setAdding(false)} />}
      <ReadIn waiting={first.waiting} />
      {first.total === 0 ? (
        <Empty>
          Nothing is logged yet. What is ticked in the field comes here by itself; files of your camera are read in
          above, and an entry can be made by hand.
        </Empty>
      ) : (
        <>
          <Box display="flex" gap="12px" alignItems="baseline">
            <Box color="muted" fontSize="body" role="status">
              {plural(first.total, "entry", "entries")}
            </Box>
            <Button look="quiet" onClick={() => setListed(listed ? undefined : "list")}>
              {listed ? "as pictures" : "as a list"}
            </Button>
          </Box>
          {listed ? (
            <Box as="ul" display="grid" data-log="">
              {entries.map((entry) => (
                <Line key={entry.id} entry={entry} />
              ))}
            </Box>
          ) : (
            <Pictures entries={entries} />
          )}
          {query.hasNextPage && (
            <Button disabled={query.isFetchingNextPage} onClick={() => void query.fetchNextPage()}>
              More
            </Button>
          )}
        </>
      )}
    </Box>
  );
}

type Kinds = Schemas["LogKindsOut"];
type Entry = Schemas["LogLineOut"];

function Sought({
  sought,
  kinds,
  change,
}: {
  sought: LogSought;
  kinds: Kinds;
  change: (part: Partial<LogSought>) => void;
}) {
  const places = useQuery(locationsQuery());
  const listed = (values: string[]) => values.map((value) => ({ value, label: value }));
  const found = (places.data?.locations ?? []).map((place) => ({ value: String(place.id), label: place.name }));
  const [opened, setOpened] = useState(false);
  const chosen = Object.entries(sought).filter(([name, value]) => name !== "words" && value).length;
  return (
    <>
      <Input
        aria-label="Find in the log"
        placeholder="find …"
        width="170px"
        value={sought.words}
        onChange={(event) => change({ words: event.target.value })}
      />
      <Button
        look="quiet"
        display={{ base: "inline-flex", lg: "none" }}
        aria-expanded={opened}
        onClick={() => setOpened(!opened)}
      >
        {chosen ? `narrowed by ${chosen}` : "narrow down"}
      </Button>
      <Box display={{ base: opened ? "flex" : "none", lg: "flex" }} gap="10px" flexWrap="wrap">
        <Pick
          label="any place"
          value={String(sought.location_id ?? "")}
          options={found}
          choose={(value) => change({ location_id: value ? Number(value) : null })}
        />
        <Pick
          label="any subject"
          value={sought.subject}
          options={listed(kinds.subject)}
          choose={(subject) => change({ subject })}
        />
        <Pick
          label="any light"
          value={sought.light}
          options={kinds.light.map((value) => ({ value, label: lightLabel(value) }))}
          choose={(light) => change({ light })}
        />
        <Pick label="any look" value={sought.look} options={listed(kinds.look)} choose={(look) => change({ look })} />
        <Pick label="any lens" value={sought.lens} options={listed(kinds.lens)} choose={(lens) => change({ lens })} />
        <Pick
          label="kept or not"
          value={sought.outcome ?? ""}
          options={OPTIONS.Outcome}
          choose={(value) => change({ outcome: (value || null) as LogSought["outcome"] })}
        />
      </Box>
    </>
  );
}

/** One thing that entries are found by; the first choice is any. */
function Pick({
  label,
  value,
  options,
  choose,
}: {
  label: string;
  value: string;
  options: readonly { value: string; label: string }[];
  choose: (value: string) => void;
}) {
  return (
    <Box width="128px">
      <SelectBox aria-label={label} fontSize="body" value={value} onChange={(event) => choose(event.target.value)}>
        <option value="">{label}</option>
        {options.map((option) => (
          <option key={option.value} value={option.value}>
            {option.label}
          </option>
        ))}
      </SelectBox>
    </Box>
  );
}

function Line({ entry }: { entry: Entry }) {
  return (
    <Box
      as="li"
      py="8px"
      borderTop="1px solid"
      borderColor="line"
      display="grid"
      gap="2px 16px"
      gridTemplateColumns={{ base: "1fr", lg: "minmax(0, 2.2fr) minmax(0, 2fr) minmax(0, 1.4fr) 110px" }}
      alignItems="baseline"
    >
      <Box minW="0">
        <Box as="span" fontWeight="650" fontSize="lead">
          <Link to={`/logbook/${entry.id}`}>{entry.name}</Link>
        </Box>
        <Box as="span" color="muted" ml="8px">
          {entry.place}
        </Box>
      </Box>
      <Box fontFamily="mono" fontSize="small">
        {entry.taken_words}
      </Box>
      <Box color="muted" fontSize="body">
        {[lightLabel(entry.light_kind), entry.look].filter(Boolean).join(", ")}
      </Box>
      <Box fontSize="body" textAlign={{ base: "left", lg: "right" }}>
        <Box as="span" fontFamily="mono">
          {entry.frames}
        </Box>{" "}
        {entry.frames === 1 ? "frame" : "frames"}
        {entry.outcome !== "open" && `, ${entry.outcome}`}
      </Box>
    </Box>
  );
}

function ByHand({ close }: { close: () => void }) {
  const navigate = useNavigate();
  const places = useQuery(locationsQuery());
  const add = useAct(
    (values: Record<string, string>) =>
      take(
        client.POST("/api/log", {
          body: {
            name: values.name ?? "",
            taken_at_utc: new Date(`${values.day ?? ""}T${values.clock || "12:00"}`).toISOString(),
            words: values.words ?? "",
            ...(values.location_id ? { location_id: Number(values.location_id) } : {}),
          },
        }),
      ),
    { quiet: true, only: ["log"] },
  );
  const today = new Date().toISOString().slice(0, 10);
  return (
    <Box bg="panel" p="14px">
      <NewForm
        name="log entry"
        label="Log it"
        fields={[
          { name: "name", label: "What", placeholder: "Posts in the mist" },
          {
            name: "location_id",
            label: "Where",
            options: [
              { value: "", label: "no place of the notebook" },
              ...(places.data?.locations ?? []).map((place) => ({ value: String(place.id), label: place.name })),
            ],
          },
          { name: "day", label: "Day", initial: today, placeholder: today },
          { name: "clock", label: "Time", placeholder: "16:04" },
          { name: "words", label: "Words", lines: 3 },
        ]}
        submit={async (values) => {
          if (!/^\d{4}-\d\d-\d\d$/.test(values.day ?? "")) throw new Error("Write the day as 2026-11-26.");
          if (values.clock && !/^\d\d:\d\d$/.test(values.clock)) throw new Error("Write the time as 16:04.");
          const made = await add.mutateAsync(values);
          void navigate(`/logbook/${made.id}`);
        }}
        cancel={close}
      />
    </Box>
  );
}
