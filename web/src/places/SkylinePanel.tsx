import { Box } from "@chakra-ui/react";
import { useEffect, useState } from "react";
import { ApiError, client, type Schemas, take } from "../api/client";
import { upload } from "../api/upload";
import { useStored } from "../lib/drafts/useStored";
import { heightText } from "../lib/format/spelling";
import { Button } from "../ui/form/Button";
import { Choice, Input, Labelled, TextBox } from "../ui/form/Field";
import { FilePick } from "../ui/form/FilePick";
import { useLocation } from "./useLocation";

type Viewpoint = Schemas["ViewpointOut"];
type Way = "typed" | "clinometer" | "grid";

/** Bearings asked for one after another by the guided measurement. */
const ROUND = Array.from({ length: 24 }, (_, index) => index * 15);

/** A viewpoint's skyline: typed or pasted, measured bearing by bearing, or computed from the location's elevation grid. */
export function SkylinePanel({ location, viewpoint }: { location: Schemas["LocationOut"]; viewpoint: Viewpoint }) {
  const [open, setOpen] = useState(false);
  const [way, setWay] = useState<Way>(location.grid ? "grid" : "typed");
  const { done } = useLocation(location.id);
  const path = { viewpoint_id: viewpoint.id };
  const put = (body: Schemas["SkylineIn"]) =>
    take(client.PUT("/api/viewpoints/{viewpoint_id}/skyline", { params: { path }, body })).then(done);
  const highest = viewpoint.skyline?.reduce((best, point) => ((point[1] ?? 0) > (best[1] ?? 0) ? point : best));
  return (
    <Box>
      <Box display="flex" gap="12px" alignItems="baseline" flexWrap="wrap" fontSize="body">
        <span>
          {highest ? (
            <>
              Skyline up to <span className="figure">{(highest[1] ?? 0).toFixed(1)}°</span> at{" "}
              <span className="figure">{(highest[0] ?? 0).toFixed(0)}°</span>, {viewpoint.skyline_source}
            </>
          ) : (
            "No skyline: the horizon is taken as level"
          )}
        </span>
        <Button look="quiet" py="0" fontSize="small" aria-expanded={open} onClick={() => setOpen(!open)}>
          {open ? "close" : highest ? "change the skyline" : "give it a skyline"}
        </Button>
        {highest && (
          <Button look="quiet" py="0" fontSize="small" onClick={() => void put({ points: null, text: null })}>
            take it away
          </Button>
        )}
      </Box>
      {open && (
        <Box display="grid" gap="9px" mt="6px">
          <Choice
            label="How"
            value={way}
            options={[
              { value: "typed", label: "typed or pasted" },
              { value: "clinometer", label: "with a clinometer" },
              { value: "grid", label: "from an elevation grid" },
            ]}
            choose={setWay}
          />
          {way === "typed" && <Typed viewpoint={viewpoint} put={put} />}
          {way === "clinometer" && <Clinometer viewpoint={viewpoint} put={put} />}
          {way === "grid" && <FromGrid location={location} viewpoint={viewpoint} />}
        </Box>
      )}
    </Box>
  );
}

type Put = (body: Schemas["SkylineIn"]) => Promise<unknown>;

function Typed({ viewpoint, put }: { viewpoint: Viewpoint; put: Put }) {
  const [draft, setDraft] = useStored(`skyline:${viewpoint.id}`);
  const [error, setError] = useState<string>();
  const saved = (viewpoint.skyline ?? []).map((point) => point.join(" ")).join("\n");
  return (
    <Labelled
      label="A bearing and an altitude a line, in degrees"
      error={error}
      hint="“135 12.5”; commas, semicolons or tabs will do; # begins a remark"
    >
      <TextBox
        aria-label="Skyline"
        rows={7}
        value={draft ?? saved}
        onChange={(event) => setDraft(event.target.value)}
        fontSize="body"
      />
      <Button
        mt="5px"
        onClick={() =>
          void put({ text: draft ?? saved }).then(
            () => {
              setDraft(undefined);
              setError(undefined);
            },
            (failure: Error) =>
              setError(failure instanceof ApiError ? (failure.at("skyline") ?? failure.message) : failure.message),
          )
        }
      >
        Keep this skyline
      </Button>
    </Labelled>
  );
}

/** Turn by 15 degrees, read the clinometer, press Enter; bearings left out are bridged. */
function Clinometer({ viewpoint, put }: { viewpoint: Viewpoint; put: Put }) {
  const [draft, setDraft] = useStored(`clinometer:${viewpoint.id}`);
  const read: Record<string, number> = numbersOf(draft);
  const [at, setAt] = useState(0);
  const [text, setText] = useState("");
  const [error, setError] = useState<string>();
  const bearing = ROUND[at] ?? 0;
  const next = () => {
    const value = Number(text.replace(",", ".").replace("−", "-"));
    if (!text.trim() || !Number.isFinite(value)) {
      setError("Write the altitude in degrees, such as 12.5, or leave this bearing out.");
      return;
    }
    setError(undefined);
    setDraft(JSON.stringify({ ...read, [bearing]: value }));
    setText("");
    setAt((at + 1) % ROUND.length);
  };
  const count = Object.keys(read).length;
  return (
    <Box display="grid" gap="7px">
      <Box fontSize="body">
        Stand at the tripod, face{" "}
        <Box as="span" fontFamily="mono" fontSize="title">
          {bearing}°
        </Box>{" "}
        by the compass (true north), sight the top of the land and read the clinometer.
      </Box>
      <Box display="flex" gap="8px" alignItems="start" flexWrap="wrap">
        <Box width="140px">
          <Labelled label={`Altitude at ${bearing}°`} error={error}>
            <Input
              aria-label={`Altitude at ${bearing}°`}
              inputMode="decimal"
              value={text}
              onChange={(event) => setText(event.target.value)}
              onKeyDown={(event) => event.key === "Enter" && next()}
            />
          </Labelled>
        </Box>
        <Box display="flex" gap="8px" pt="19px">
          <Button look="main" onClick={next}>
            Next bearing
          </Button>
          <Button onClick={() => setAt((at + 1) % ROUND.length)}>Leave out</Button>
        </Box>
      </Box>
      <Box fontSize="small" color="muted">
        {count
          ? `${count} of ${ROUND.length} read: ${Object.entries(read)
              .map(([where, height]) => `${where}° ${height}°`)
              .join(", ")}`
          : "Nothing read yet."}
      </Box>
      <Box display="flex" gap="8px">
        <Button
          disabled={!count}
          onClick={() =>
            void put({ points: Object.entries(read).map(([where, height]) => [Number(where), height]) }).then(
              () => setDraft(undefined),
              (failure: Error) => setError(failure.message),
            )
          }
        >
          Keep this skyline
        </Button>
        {count > 0 && <Button onClick={() => setDraft(undefined)}>Start again</Button>}
      </Box>
    </Box>
  );
}

function FromGrid({ location, viewpoint }: { location: Schemas["LocationOut"]; viewpoint: Viewpoint }) {
  const { done } = useLocation(location.id);
  const [job, setJob] = useState<Schemas["JobOut"]>();
  const [error, setError] = useState<string>();
  const running = job?.state === "running" || job?.state === "waiting";
  // Work that a page before this one asked for goes on, and is shown.
  useEffect(() => {
    take(client.GET("/api/jobs")).then(
      ({ jobs }) => setJob((known) => known ?? jobs.find((item) => item.viewpoint_id === viewpoint.id)),
      () => undefined,
    );
  }, [viewpoint.id]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: asks again as long as the job runs
  useEffect(() => {
    if (!running || !job) return;
    const timer = setTimeout(() => {
      take(client.GET("/api/jobs/{job_id}", { params: { path: { job_id: job.id } } })).then(
        (next) => {
          setJob(next);
          if (next.state === "done") done(next);
        },
        (failure: Error) => setError(failure.message),
      );
    }, 250);
    return () => clearTimeout(timer);
  }, [job, running]);
  const start = () => {
    setError(undefined);
    take(
      client.POST("/api/viewpoints/{viewpoint_id}/skyline/compute", {
        params: { path: { viewpoint_id: viewpoint.id } },
      }),
    ).then(setJob, (failure: Error) => setError(failure.message));
  };
  const grid = location.grid;
  return (
    <Box display="grid" gap="7px" fontSize="body">
      {grid ? (
        <Box>
          <span className="figure">{grid.name}</span>: {grid.rows} × {grid.columns} points,{" "}
          {heightText(grid.spacing_m, 0)} apart, {grid.south_deg.toFixed(2)} to {grid.north_deg.toFixed(2)}° N,{" "}
          {grid.west_deg.toFixed(2)} to {grid.east_deg.toFixed(2)}° E
        </Box>
      ) : (
        <Box color="muted">
          An elevation grid of the land around: an SRTM tile (.hgt), an ESRI ASCII grid in degrees (.asc) or a GeoTIFF.
        </Box>
      )}
      <Box display="flex" gap="8px" flexWrap="wrap" alignItems="start">
        <FilePick
          label={grid ? "Another grid …" : "Choose a grid …"}
          accept=".hgt,.asc,.tif,.tiff"
          take={async (file) => {
            const kept = await upload<Schemas["GridOut"]>(`/api/locations/${location.id}/grid`, file);
            done(kept);
            return `${kept.name} is kept: ${kept.rows} × ${kept.columns} points.`;
          }}
        />
        {grid && !running && (
          <Button look="main" onClick={start}>
            Compute the skyline
          </Button>
        )}
        {running && job && (
          <Button
            onClick={() =>
              void take(client.DELETE("/api/jobs/{job_id}", { params: { path: { job_id: job.id } } })).then(setJob)
            }
          >
            Stop
          </Button>
        )}
      </Box>
      {job && (
        <Box role="status">
          {running ? (
            <progress value={job.progress} max={1} aria-label="Computing the skyline" />
          ) : (
            <Box as="span" color={job.state === "failed" ? "rust" : "fg"}>
              {job.message}
            </Box>
          )}
        </Box>
      )}
      {error && (
        <Box role="alert" color="rust">
          {error}
        </Box>
      )}
    </Box>
  );
}

/** Altitudes by bearing as they were kept; anything else counts as nothing. */
function numbersOf(text: string | undefined): Record<string, number> {
  try {
    const found: unknown = JSON.parse(text ?? "{}");
    return typeof found === "object" && found !== null
      ? Object.fromEntries(
          Object.entries(found).filter((entry): entry is [string, number] => typeof entry[1] === "number"),
        )
      : {};
  } catch {
    return {};
  }
}
