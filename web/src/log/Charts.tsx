import { Box } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { scaleLinear, scaleLog } from "d3-scale";
import type { Schemas } from "../api/client";
import { logFiguresQuery } from "../api/queries";
import { BottomAxis, LeftAxis } from "../drawing/axes";
import { Drawing } from "../drawing/Drawing";
import { percent } from "../lib/format/numbers";
import { hourText, plural } from "../lib/format/spelling";
import { ink } from "../theme/system";
import { Empty, Failed, Pending } from "../ui/layout/States";
import { Costs, Lasted, Promised } from "./PlannedBesideFound";

type Figures = Schemas["LogFiguresOut"];

const MONTHS = ["Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec"];
const FIRST_DAYS = [1, 32, 60, 91, 121, 152, 182, 213, 244, 274, 305, 335];
const SHARES = [0.001, 0.01, 0.1, 1, 10];

/** What the log comes to, as drawings with their tables behind. */
export function Charts() {
  const query = useQuery(logFiguresQuery());
  if (query.error) return <Failed error={query.error} retry={() => void query.refetch()} />;
  const figures = query.data;
  if (!figures) return <Pending what="the figures of the log" />;
  if (!figures.taken.length) return <Empty>Nothing is logged yet; the drawings begin with the first entry.</Empty>;
  return (
    <Box
      display="grid"
      gap="18px 26px"
      pt="8px"
      gridTemplateColumns="minmax(0, 1fr)"
      css={{ "@media (min-width: 960px)": { gridTemplateColumns: "minmax(0, 1fr) minmax(0, 1fr)" } }}
    >
      {figures.behind > 0 && (
        <Box role="status" gridColumn="1 / -1" color="muted">
          {plural(figures.behind, "entry", "entries")} still to be counted.
        </Box>
      )}
      <Box height="300px">
        <When figures={figures} />
      </Box>
      <Box height="300px">
        <Errors figures={figures} />
      </Box>
      <Box height="300px">
        <Looks figures={figures} />
      </Box>
      <Box height="300px">
        <Held figures={figures} />
      </Box>
      <Box height="300px">
        <Promised figures={figures} />
      </Box>
      <Box height="300px">
        <Lasted figures={figures} />
      </Box>
      <Box height="300px">
        <Costs figures={figures} />
      </Box>
    </Box>
  );
}

function When({ figures }: { figures: Figures }) {
  const { taken } = figures;
  return (
    <Drawing
      title="When it was taken"
      note={Object.entries(figures.outcomes)
        .map(([name, count]) => `${count} ${name}`)
        .join(", ")}
      figures={{
        head: ["entry", "day of the year", "hour", "keeper"],
        rows: taken.map((item) => [item.name, item.day, item.hour.toFixed(1), item.outcome]),
      }}
    >
      {(width, height) => {
        const x = scaleLinear([1, 366], [34, width - 8]);
        const y = scaleLinear([0, 24], [height - 22, 6]);
        return (
          <>
            <LeftAxis
              ticks={[0, 6, 12, 18, 24].map((hour) => ({ at: y(hour), label: hourText(hour) }))}
              x={30}
              right={width - 8}
            />
            <BottomAxis
              ticks={FIRST_DAYS.filter((_, index) => width > 480 || index % 2 === 0).map((day) => ({
                at: x(day),
                label: MONTHS[FIRST_DAYS.indexOf(day)] ?? "",
              }))}
              y={height - 20}
              top={6}
            />
            {taken.map((item) => (
              <g key={item.entry_id} transform={`translate(${x(item.day)} ${y(item.hour)})`}>
                <title>{item.name}</title>
                <circle
                  r={5}
                  fill={item.outcome === "keep" ? ink("accent") : ink("bg")}
                  stroke={item.outcome === "drop" ? ink("rust") : ink("accent")}
                  strokeWidth={1.6}
                />
                {item.outcome === "drop" && <path d="M-3 -3 L3 3 M3 -3 L-3 3" stroke={ink("rust")} strokeWidth={1.4} />}
              </g>
            ))}
          </>
        );
      }}
    </Drawing>
  );
}

function Errors({ figures }: { figures: Figures }) {
  const { errors } = figures;
  const most = Math.max(1, ...errors.map((item) => Math.abs(item.error_ev)));
  const last = errors.at(-1);
  return (
    <Drawing
      title="Light against the plan"
      note={
        last
          ? `half of the newest ${Math.min(figures.window, errors.length)} frames lie within ${last.middle.toFixed(2)} stops`
          : "no file has been held against a plan yet"
      }
      figures={{
        head: ["frame", "brighter than planned [EV]", "predicted or metered", "median of the newest"],
        rows: errors.map((item) => [
          item.number,
          item.error_ev.toFixed(2),
          item.predicted ? "predicted" : "metered",
          item.middle.toFixed(2),
        ]),
      }}
    >
      {(width, height) => {
        const x = scaleLinear([0, Math.max(10, errors.length) + 1], [40, width - 8]);
        const y = scaleLinear([-most, most], [height - 22, 6]);
        return (
          <>
            <rect
              x={40}
              width={Math.max(0, width - 48)}
              y={y(1 / 3)}
              height={Math.max(0, y(-1 / 3) - y(1 / 3))}
              fill={ink("raised")}
            />
            <LeftAxis
              ticks={y
                .ticks(5)
                .map((stops) => ({ at: y(stops), label: stops > 0 ? `+${stops}` : String(stops).replace("-", "−") }))}
              x={36}
              right={width - 8}
            />
            <BottomAxis ticks={x.ticks(6).map((at) => ({ at: x(at), label: String(at) }))} y={height - 20} />
            {errors.map((item) => (
              <circle
                key={item.frame_id}
                cx={x(item.number)}
                cy={y(item.error_ev)}
                r={3}
                fill={item.predicted ? "none" : ink("haze")}
                stroke={ink("haze")}
                strokeWidth={1.3}
              />
            ))}
            <path
              d={errors.map((item, index) => `${index ? "L" : "M"}${x(item.number)} ${y(item.middle)}`).join("")}
              fill="none"
              stroke={ink("accent")}
              strokeWidth={2}
            />
          </>
        );
      }}
    </Drawing>
  );
}

function Looks({ figures }: { figures: Figures }) {
  const { looks, bands } = figures;
  return (
    <Drawing
      title="Which looks please"
      note={
        looks.length
          ? "stars over the streak, as a share of the frame's short side; the bar is your band"
          : "rate frames of moving water, and they appear here"
      }
      figures={{
        head: ["streak share", "stars", "wanted look"],
        rows: looks.map((item) => [item.streak_share.toPrecision(2), item.stars, item.wanted_look]),
      }}
    >
      {(width, height) => {
        const x = scaleLog([0.001, 60], [34, width - 8]).clamp(true);
        const y = scaleLinear([0.5, 5.5], [height - 44, 8]);
        return (
          <>
            <LeftAxis
              ticks={[1, 2, 3, 4, 5].map((stars) => ({ at: y(stars), label: String(stars) }))}
              x={30}
              right={width - 8}
            />
            <BottomAxis ticks={SHARES.map((share) => ({ at: x(share), label: percent(share) }))} y={height - 20} />
            {bands.map((band, index) => (
              <g key={band.name}>
                <rect
                  x={x(band.own_low_share)}
                  width={Math.max(0, x(band.own_high_share) - x(band.own_low_share) - 1)}
                  y={height - 42}
                  height={16}
                  fill={index % 2 ? ink("raised") : ink("low")}
                  stroke={ink("line")}
                />
                {x(band.own_high_share) - x(band.own_low_share) > 54 && (
                  <text x={x(band.own_low_share) + 5} y={height - 30} fontSize={12} fill={ink("fg")}>
                    {band.name}
                  </text>
                )}
              </g>
            ))}
            {looks.map((item, index) => (
              <circle
                key={item.frame_id}
                cx={x(item.streak_share)}
                cy={y(item.stars) + ((index * 7) % 11) - 5}
                r={3.2}
                fill={item.stars >= 4 ? ink("accent") : "none"}
                stroke={item.stars >= 4 ? ink("accent") : ink("rust")}
                strokeWidth={1.3}
              />
            ))}
          </>
        );
      }}
    </Drawing>
  );
}

function Held({ figures }: { figures: Figures }) {
  const { held } = figures;
  return (
    <Drawing
      title="Sharp by hand"
      note={
        held.length
          ? "of frames so much longer than 1/(focal length × crop); the line is what practice expects"
          : "no frames by hand yet"
      }
      figures={{
        head: ["against the rule", "sharp", "of", "from", "to", "expected", "with yours"],
        rows: held.map((item) => [
          item.label,
          item.sharp,
          item.tries,
          percent(item.low),
          percent(item.high),
          percent(item.expected),
          percent(item.corrected),
        ]),
      }}
    >
      {(width, height) => {
        const stops = held.map((item) => item.over_stops);
        const x = scaleLinear([Math.min(-1, ...stops) - 0.6, Math.max(1, ...stops) + 0.6], [44, width - 8]);
        const y = scaleLinear([0, 1], [height - 22, 8]);
        return (
          <>
            <LeftAxis
              ticks={[0, 0.25, 0.5, 0.75, 1].map((share) => ({ at: y(share), label: percent(share) }))}
              x={40}
              right={width - 8}
            />
            <BottomAxis
              ticks={held.map((item) => ({
                at: x(item.over_stops),
                label: width / held.length < 120 ? String(item.over_stops).replace("-", "−") : item.label,
              }))}
              y={height - 20}
            />
            <path
              d={held.map((item, index) => `${index ? "L" : "M"}${x(item.over_stops)} ${y(item.expected)}`).join("")}
              fill="none"
              stroke={ink("muted")}
              strokeDasharray="4 4"
            />
            {held.map((item) => (
              <g key={item.over_stops} transform={`translate(${x(item.over_stops)} 0)`}>
                <line y1={y(item.low)} y2={y(item.high)} stroke={ink("haze")} strokeWidth={3} />
                <circle cy={y(item.sharp / item.tries)} r={6} fill={ink("accent")} />
                <text
                  className="figure"
                  x={10}
                  y={y(item.sharp / item.tries)}
                  dy="0.35em"
                  fontSize={13}
                  fill={ink("fg")}
                >
                  {item.sharp}/{item.tries}
                </text>
              </g>
            ))}
          </>
        );
      }}
    </Drawing>
  );
}
