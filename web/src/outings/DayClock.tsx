import { type ScaleLinear, scaleLinear } from "d3-scale";
import { line } from "d3-shape";
import { BAND_ROLES } from "../drawing/bands";
import { Drawing } from "../drawing/Drawing";
import { labelOf } from "../lib/format/labels";
import { percent } from "../lib/format/numbers";
import { hourText } from "../lib/format/spelling";
import { ink } from "../theme/system";
import type { Outing } from "./useOuting";

type Scale = ScaleLinear<number, number>;

const LEFT = 178;
const ROW = 40;
const HEAD = 22;
const LIGHT = 16;
const CLOUD = 18;
const TIDE = 34;

/** Light, weather and tide above; below a line for home and each stop, with its windows, what is done there, and the ways between. */
export function DayClock({
  outing,
  chosen,
  choose,
}: {
  outing: Outing;
  chosen: number | null;
  choose: (stop: number) => void;
}) {
  const rows = [...outing.order, ...outing.stops.map((_, at) => at).filter((at) => !outing.order.includes(at))];
  return (
    <Drawing
      title="The day clock"
      note={
        outing.leave_clock
          ? `leave home ${outing.leave_clock}, back ${outing.back_clock}, ${outing.walk_label || "nothing"} on foot`
          : ""
      }
      least={HEAD + LIGHT + CLOUD + TIDE + 40 + (rows.length + 1) * ROW}
      figures={{
        head: ["From", "What", "Stop"],
        rows: outing.parts.map((part) => [
          part.clock,
          part.words + (part.estimated ? ", estimated" : "") + (part.dark ? ", in the dark" : ""),
          part.stop === null ? "home" : (outing.stops[part.stop]?.name ?? ""),
        ]),
      }}
    >
      {(width, height) => {
        const x = scaleLinear()
          .domain([outing.from_h, outing.to_h])
          .range([LEFT, width - 14]);
        let top = HEAD;
        const at = (tall: number) => {
          const here = top;
          top += tall + 5;
          return here;
        };
        const light = at(LIGHT);
        const cloud = outing.weather.length ? at(CLOUD) : null;
        const tide = outing.tide ? at(TIDE) : null;
        const first = top + 8;
        const row = Math.min(58, Math.max(ROW, (height - first - 10) / (rows.length + 1)));
        const y = (stop: number | null) => first + row * (stop === null ? 0 : rows.indexOf(stop) + 1) + row / 2;
        return (
          <>
            <Hours x={x} foot={first + row * (rows.length + 1)} />
            <Light outing={outing} x={x} top={light} />
            {cloud !== null && <Cloud outing={outing} x={x} top={cloud} />}
            {tide !== null && <Tide outing={outing} x={x} top={tide} />}
            <Ways outing={outing} x={x} y={y} />
            <text x={LEFT - 10} y={y(null)} dy="0.35em" textAnchor="end" fontSize="13" fill={ink("muted")}>
              home
            </text>
            {rows.map((stop) => (
              <StopRow
                key={stop}
                outing={outing}
                stop={stop}
                x={x}
                y={y(stop)}
                chosen={chosen === stop}
                choose={() => choose(stop)}
              />
            ))}
          </>
        );
      }}
    </Drawing>
  );
}

function Hours({ x, foot }: { x: Scale; foot: number }) {
  const [from, to] = x.domain() as [number, number];
  const perHour = x(1) - x(0);
  const every = [1, 2, 3, 6, 12].find((step) => step * perHour > 46) ?? 24;
  const hours = [];
  for (let hour = Math.ceil(from / every) * every; hour <= to; hour += every) hours.push(hour);
  return (
    <>
      {hours.map((hour) => (
        <g key={hour}>
          <line
            x1={x(hour)}
            x2={x(hour)}
            y1={HEAD - 3}
            y2={foot}
            stroke={ink("line")}
            strokeDasharray={hour % 24 ? "1 5" : undefined}
          />
          <text className="figure" x={x(hour)} y={13} textAnchor="middle" fontSize="12" fill={ink("muted")}>
            {hourText(hour)}
          </text>
        </g>
      ))}
    </>
  );
}

function BandName({ top, tall, children }: { top: number; tall: number; children: string }) {
  return (
    <text x={LEFT - 10} y={top + tall / 2} dy="0.35em" textAnchor="end" fontSize="12" fill={ink("muted")}>
      {children}
    </text>
  );
}

function clipped(x: Scale, from: number, to: number): { x: number; width: number } | null {
  const [low, high] = x.domain() as [number, number];
  const [start, end] = [Math.max(low, from), Math.min(high, to)];
  return end > start ? { x: x(start), width: x(end) - x(start) } : null;
}

function Light({ outing, x, top }: { outing: Outing; x: Scale; top: number }) {
  const [left, right] = x.range() as [number, number];
  return (
    <g data-band="light">
      <BandName top={top} tall={LIGHT}>
        light
      </BandName>
      <rect x={left} width={right - left} y={top} height={LIGHT} fill={ink("panel")} />
      {outing.bands.map((band) => {
        const box = clipped(x, band.from_h, band.to_h);
        if (!box) return null;
        const golden = band.kind === "golden_hour";
        return (
          <g key={`${band.kind}${band.from_h}`}>
            <rect {...box} y={top} height={LIGHT} fill={ink(BAND_ROLES[band.kind] ?? "low")} />
            <rect
              {...box}
              y={top}
              height={LIGHT}
              fill={golden ? ink("accent") : "none"}
              opacity={0.45}
              stroke={ink("line")}
              strokeWidth={0.6}
            />
            <title>{labelOf("Band", band.kind)}</title>
          </g>
        );
      })}
    </g>
  );
}

function Cloud({ outing, x, top }: { outing: Outing; x: Scale; top: number }) {
  return (
    <g data-band="cloud">
      <BandName top={top} tall={CLOUD}>
        cloud, rain
      </BandName>
      {outing.weather.map((hour) => {
        const box = clipped(x, hour.from_h, hour.from_h + 1);
        if (!box) return null;
        return (
          <g key={hour.from_h}>
            <rect
              {...box}
              y={top + (CLOUD * (1 - hour.cover)) / 2}
              height={CLOUD * hour.cover}
              fill={ink("fg")}
              opacity={0.15 + 0.4 * hour.cover}
            />
            {hour.rain_mm > 0 && (
              <rect
                {...box}
                y={top + CLOUD - Math.min(CLOUD, 3 + 5 * hour.rain_mm)}
                height={Math.min(CLOUD, 3 + 5 * hour.rain_mm)}
                fill={ink("haze")}
              />
            )}
            <title>{`${percent(hour.cover)} cloud, ${hour.rain_mm.toFixed(1)} mm, ${Math.round(hour.temperature_c)} °C, gusts of ${Math.round(hour.gust_mps)} m/s`}</title>
          </g>
        );
      })}
    </g>
  );
}

function Tide({ outing, x, top }: { outing: Outing; x: Scale; top: number }) {
  const points = outing.tide?.points ?? [];
  const heights = points.map((point) => point.height_m);
  const y = scaleLinear()
    .domain([Math.min(...heights), Math.max(...heights)])
    .range([top + TIDE - 2, top + 2]);
  const path = line<(typeof points)[number]>(
    (point) => x(point.at_h),
    (point) => y(point.height_m),
  )(points);
  return (
    <g data-band="tide">
      <BandName top={top} tall={TIDE}>
        tide
      </BandName>
      <path d={path ?? ""} fill="none" stroke={ink("haze")} strokeWidth={1.6} />
    </g>
  );
}

/** The ways from line to line: by car broken, on foot whole, in the dark dim. */
function Ways({ outing, x, y }: { outing: Outing; x: Scale; y: (stop: number | null) => number }) {
  let here: number | null = null;
  const legs: { from: number | null; to: number | null; parts: Outing["parts"] }[] = [];
  for (const part of outing.parts) {
    if (part.kind !== "drive" && part.kind !== "walk") {
      here = part.stop;
      continue;
    }
    const last = legs.at(-1);
    if (last && last.to === part.stop) last.parts.push(part);
    else {
      legs.push({ from: here, to: part.stop, parts: [part] });
    }
  }
  return (
    <g data-ways="">
      {legs.map(({ from, to, parts }) => {
        const [start, end] = [parts[0]?.from_h ?? 0, parts.at(-1)?.to_h ?? 0];
        const height = (hour: number) => y(from) + ((y(to) - y(from)) * (hour - start)) / Math.max(1e-6, end - start);
        return parts.map((part) => (
          <g key={part.from_h}>
            <line
              x1={x(part.from_h)}
              x2={x(part.to_h)}
              y1={height(part.from_h)}
              y2={height(part.to_h)}
              stroke={ink(part.dark ? "muted" : "fg")}
              strokeWidth={part.kind === "walk" ? 2.4 : 1.6}
              strokeDasharray={part.kind === "drive" ? (part.estimated ? "2 4" : "7 4") : undefined}
            />
            <title>{`${part.label}${part.estimated ? ", estimated" : ""}${part.dark ? ", in the dark" : ""}`}</title>
          </g>
        ));
      })}
    </g>
  );
}

/** Under a stop's line what plan B would do in its place, hollow, from where it is decided. */
function PlanB({ outing, stop, x, y }: { outing: Outing; stop: number; x: Scale; y: number }) {
  const plan = outing.plans_b.find((item) => item.stop === stop);
  if (!plan?.parts.length) return null;
  const top = y + 13;
  const decided = plan.decided_h === null ? null : clipped(x, plan.decided_h, plan.decided_h + 0.01);
  return (
    <g data-plan-b={stop}>
      {decided && (
        <text x={decided.x} y={top + 6} textAnchor="end" fontSize="12" fill={ink("muted")} dx="-3">
          B?
        </text>
      )}
      {plan.parts
        .filter((part) => part.stop === stop && part.kind !== "wait")
        .map((part) => {
          const box = clipped(x, part.from_h, part.to_h);
          const way = part.kind === "drive" || part.kind === "walk";
          return (
            box && (
              <rect
                key={part.from_h}
                x={box.x}
                width={Math.max(1.5, box.width)}
                y={way ? top + 2.4 : top}
                height={way ? 1.2 : 6}
                fill="none"
                stroke={ink("muted")}
                strokeDasharray={way ? "3 2" : undefined}
              >
                <title>{`plan B: ${part.label}`}</title>
              </rect>
            )
          );
        })}
    </g>
  );
}

const SHARE: Record<string, number> = {
  frames: 1,
  scouting: 0.7,
  rest: 0.5,
  "set up": 0.34,
  "pack up": 0.34,
  wait: 0.08,
  night: 0.16,
};

function StopRow({
  outing,
  stop,
  x,
  y,
  chosen,
  choose,
}: {
  outing: Outing;
  stop: number;
  x: Scale;
  y: number;
  chosen: boolean;
  choose: () => void;
}) {
  const said = outing.stops[stop];
  if (!said) return null;
  const left = said.taken === null;
  const words = said.name.length > 23 ? `${said.name.slice(0, 22)}…` : said.name;
  const tall = 18;
  return (
    <g
      data-stop={stop}
      role="button"
      tabIndex={0}
      onClick={choose}
      onKeyDown={(event) => event.key === "Enter" && choose()}
      style={{ cursor: "pointer" }}
    >
      <title>{said.name}</title>
      <rect
        x={0}
        width={x.range()[1] as number}
        y={y - 19}
        height={38}
        fill={chosen ? ink("raised") : "transparent"}
        opacity={0.6}
      />
      <text x={LEFT - 10} y={y - 5} textAnchor="end" fontSize="13" fontWeight={600} fill={ink(left ? "muted" : "fg")}>
        {words}
      </text>
      <text
        className="figure"
        x={LEFT - 10}
        y={y + 11}
        textAnchor="end"
        fontSize="12"
        fill={ink(left ? "rust" : "muted")}
      >
        {left ? "left out" : said.begin_clock}
      </text>
      <line x1={LEFT} x2={x.range()[1] as number} y1={y} y2={y} stroke={ink("line")} />
      {outing.windows
        .filter((window) => window.stop === stop)
        .map((window) => {
          const box = clipped(x, window.from_h, window.to_h);
          return (
            box && (
              <rect
                key={window.from_h}
                {...box}
                y={y - tall / 2 - 3}
                height={tall + 6}
                fill={ink(window.mark === "fails" ? "muted" : "accent")}
                fillOpacity={0.08 + 0.22 * Math.min(1, window.value)}
                stroke={ink(window.mark === "fails" ? "muted" : "accent")}
                strokeOpacity={0.5}
                strokeWidth={0.8}
                strokeDasharray={window.mark === "holds" ? undefined : "3 3"}
              >
                <title>{`${window.name}${window.mark === "fails" ? ", not as wanted" : ""}, promises ${Math.round(100 * Math.min(1, window.value))} of 100`}</title>
              </rect>
            )
          );
        })}
      {outing.parts
        .filter((part) => part.stop === stop && part.kind in SHARE)
        .map((part) => {
          const box = clipped(x, part.from_h, part.to_h);
          const share = tall * (SHARE[part.kind] ?? 0.3);
          return (
            box && (
              <rect
                key={part.from_h}
                x={box.x}
                width={Math.max(1.5, box.width)}
                y={y - share / 2}
                height={share}
                fill={ink(
                  part.kind === "frames" ? "accent" : part.kind === "wait" || part.kind === "night" ? "muted" : "fg",
                )}
              >
                <title>{part.label}</title>
              </rect>
            )
          );
        })}
      <PlanB outing={outing} stop={stop} x={x} y={y} />
    </g>
  );
}
