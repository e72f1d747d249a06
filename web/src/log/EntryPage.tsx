import { Box, chakra } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { Link, useParams } from "react-router";
import { client, type Schemas, take } from "../api/client";
import { OPTIONS } from "../api/facts";
import { logEntryQuery, shotNamesQuery } from "../api/queries";
import { useAct } from "../lib/drafts/useAct";
import { useTitle } from "../lib/focus/useTitle";
import { plain } from "../lib/format/numbers";
import { Button, ButtonLink } from "../ui/form/Button";
import { Choice, Field, SelectBox } from "../ui/form/Field";
import { Mark } from "../ui/layout/Mark";
import { Row, Section } from "../ui/layout/Section";
import { Empty, FailedPage, Pending } from "../ui/layout/States";
import { UndoBar } from "../ui/overlay/UndoBar";
import { type Entry, lightLabel } from "./entry";
import { Frames } from "./Frames";
import { Recipe } from "./Recipe";
import { Strip } from "./Strip";

type Patch = Schemas["LogEntryPatch"];

const ASPECTS = ["water", "sharpness", "light", "composition", "joy"] as const;

/** One field session: what was planned beside what was done, what the files say, and what one says oneself. */
export default function EntryPage() {
  const id = Number(useParams().entryId);
  const query = useQuery(logEntryQuery(id));
  const entry = query.data;
  useTitle(entry?.name, "logbook");
  const change = useAct(
    (body: Patch) => take(client.PATCH("/api/log/{entry_id}", { params: { path: { entry_id: id } }, body })),
    { quiet: true, only: ["log"] },
  );
  if (query.error && !entry) return <FailedPage error={query.error} retry={() => void query.refetch()} />;
  if (!entry) return <Pending what="the entry" />;
  const save = (body: Patch) => change.mutateAsync(body);
  return (
    <Box as="main" id="main" tabIndex={-1} outline="none" px="16px" py="10px">
      <Box display="flex" alignItems="baseline" gap="14px" flexWrap="wrap" mb="8px">
        <Link to="/logbook">Logbook</Link>
        <Box as="h1" fontSize="title" fontWeight="700">
          {entry.name}
        </Box>
        <Box color="muted">
          {[entry.place, entry.taken_words, lightLabel(entry.light_kind), entry.lens].filter(Boolean).join(" · ")}
        </Box>
        <Box flex="1" />
        <UndoBar undo={entry.undo} scopes={[`log:${entry.id}`]} />
        <Out entry={entry} />
        {entry.shot_id !== null && <Link to={`/shots/${entry.shot_id}/field`}>the plan now</Link>}
      </Box>
      <Box
        display="grid"
        gap="14px 24px"
        gridTemplateColumns="minmax(0, 1fr)"
        css={{ "@media (min-width: 960px)": { gridTemplateColumns: "minmax(0, 3fr) minmax(0, 2fr)" } }}
      >
        <Box minW="0" display="grid" gap="12px" alignContent="start">
          {entry.strip && entry.strip.planned.length + entry.strip.taken.length > 1 && <Strip strip={entry.strip} />}
          <Findings entry={entry} />
          {entry.planned.length === 0 && entry.frames.length > 0 && <OfWhichShot entry={entry} />}
          {entry.frames.length ? (
            <Frames entry={entry} />
          ) : (
            <Empty>
              No frames yet: read the camera's files in on the logbook's page, and they find their way here.
            </Empty>
          )}
        </Box>
        <Box minW="0">
          {entry.plan_picture && (
            <Section title="As it was planned">
              <Box data-backdrop="" lineHeight="0">
                <chakra.img
                  src={`/api/log/${entry.id}/planned`}
                  alt="As it was planned, in tones"
                  maxW="100%"
                  maxH="230px"
                />
              </Box>
            </Section>
          )}
          {entry.photos.length > 0 && (
            <Section title="The scene">
              <Box display="flex" gap="8px" flexWrap="wrap">
                {entry.photos.map((id) => (
                  <chakra.img
                    key={id}
                    src={`/api/field/events/${id}/image`}
                    alt="The scene as it was"
                    maxH="180px"
                    data-backdrop=""
                  />
                ))}
              </Box>
            </Section>
          )}
          <Said entry={entry} save={save} />
          <Recipe entry={entry} />
        </Box>
      </Box>
    </Box>
  );
}

/** The sheet for putting the picture together, with the files' real names; and sidecars that tell a raw converter what is kept. */
function Out({ entry }: { entry: Entry }) {
  const best = useAct(
    () => take(client.POST("/api/log/{entry_id}/best", { params: { path: { entry_id: entry.id } } })),
    {
      only: ["log"],
    },
  );
  if (!entry.frames.some((frame) => frame.preview)) return null;
  return (
    <>
      <Button look="quiet" disabled={best.isPending} onClick={() => best.mutate(undefined)}>
        keep the sharpest of each
      </Button>
      {(["csv", "json", "zip"] as const).map((ending) => (
        <ButtonLink key={ending} look="quiet" px="3px" href={`/api/log/${entry.id}/export/${ending}`} download>
          {{ csv: "sheet", json: "JSON", zip: "XMP sidecars" }[ending]}
        </ButtonLink>
      ))}
    </>
  );
}

/** Who worked from paper says here which shot it was; its files are then held against that plan. */
function OfWhichShot({ entry }: { entry: Entry }) {
  const shots = useQuery(shotNamesQuery());
  const say = useAct(
    (shot_id: number) =>
      take(client.POST("/api/log/{entry_id}/shot", { params: { path: { entry_id: entry.id } }, body: { shot_id } })),
    { only: ["log"] },
  );
  return (
    <Box display="flex" gap="10px" alignItems="center" fontSize="body">
      Which shot was it?
      <SelectBox
        aria-label="Which shot it was"
        width="240px"
        value=""
        disabled={say.isPending}
        onChange={(event) => event.target.value && say.mutate(Number(event.target.value))}
      >
        <option value="">none of the notebook</option>
        {(shots.data ?? []).map((shot) => (
          <option key={shot.id} value={shot.id}>
            {shot.name}
          </option>
        ))}
      </SelectBox>
    </Box>
  );
}

function Findings({ entry }: { entry: Entry }) {
  if (!entry.findings.length) return null;
  return (
    <Box as="ul" fontSize="body" display="grid" gap="4px" data-findings="" aria-label="What the files say">
      {entry.findings.map((item) => (
        <Box as="li" key={item.text} display="grid" gridTemplateColumns="20px 1fr" alignItems="baseline">
          <Mark mark={item.severity} size={5} />
          <span>{item.text}</span>
        </Box>
      ))}
    </Box>
  );
}

function Said({ entry, save }: { entry: Entry; save: (body: Patch) => Promise<unknown> }) {
  const wrong = new Set(entry.went_wrong);
  const figure = (name: "wind_mps" | "temperature_c" | "water_m", label: string, unit: string) => (
    <Field
      label={label}
      unit={unit}
      name={`log:${entry.id}:${name}`}
      value={entry[name] === null ? "" : plain(entry[name], 1)}
      placeholder="–"
      save={(text) => save({ [name]: text.trim() || null })}
    />
  );
  return (
    <>
      <Section title="How was it?">
        <Choice
          label="Keeper"
          value={entry.outcome}
          options={OPTIONS.Outcome}
          choose={(outcome) => void save({ outcome: outcome as Entry["outcome"] })}
        />
        {ASPECTS.map((aspect) => (
          <Stars
            key={aspect}
            label={aspect}
            value={entry[`${aspect}_stars`]}
            rate={(stars) => void save({ [`${aspect}_stars`]: stars })}
          />
        ))}
        <Field
          words
          label="Words"
          name={`log:${entry.id}:words`}
          value={entry.words}
          placeholder="what it was like"
          save={(text) => save({ words: text })}
        />
      </Section>
      <Section title="What went wrong">
        <Box display="flex" flexWrap="wrap" gap="6px">
          {OPTIONS.WentWrong.map((item) => (
            <Button
              key={item.value}
              look={wrong.has(item.value) ? "chosen" : "plain"}
              aria-pressed={wrong.has(item.value)}
              onClick={() =>
                void save({
                  went_wrong: wrong.has(item.value)
                    ? entry.went_wrong.filter((other) => other !== item.value)
                    : [...entry.went_wrong, item.value],
                })
              }
            >
              {item.label}
            </Button>
          ))}
        </Box>
      </Section>
      <Section title="As it was found">
        <Row>
          {figure("wind_mps", "Wind", "m/s")}
          <Field
            label="Cloud"
            unit="%"
            name={`log:${entry.id}:cloud_share`}
            value={entry.cloud_share === null ? "" : plain(entry.cloud_share * 100, 0)}
            placeholder="–"
            save={(text) => save({ cloud_share: text.trim() ? Number(text) / 100 : null })}
          />
          {figure("temperature_c", "Temperature", "°C")}
          {figure("water_m", "Water level", "m")}
        </Row>
        <Field
          words
          label="Name"
          name={`log:${entry.id}:name`}
          value={entry.name}
          save={(text) => save({ name: text })}
        />
        <Button look="quiet" onClick={() => void save({ archived: !entry.archived })}>
          {entry.archived ? "Bring it back into the log" : "Put this entry away"}
        </Button>
      </Section>
    </>
  );
}

/** One to five; the same one again takes it back. */
export function Stars({
  label,
  value,
  rate,
}: {
  label: string;
  value: number | null;
  rate: (stars: number | null) => void;
}) {
  return (
    <Box
      role="group"
      aria-label={label}
      display="grid"
      gridTemplateColumns="minmax(0, 1fr) repeat(5, 30px)"
      gap="4px"
      alignItems="center"
    >
      <Box fontSize="body">{label}</Box>
      {[1, 2, 3, 4, 5].map((stars) => (
        <Button
          key={stars}
          px="0"
          look={(value ?? 0) >= stars ? "chosen" : "plain"}
          aria-label={`${stars} of 5`}
          aria-pressed={value === stars}
          onClick={() => rate(value === stars ? null : stars)}
        >
          {stars}
        </Button>
      ))}
    </Box>
  );
}
