import { scaleLinear, scaleLog } from "d3-scale";
import { Hatch } from "../../drawing/axes";
import { Drawing } from "../../drawing/Drawing";
import type { Shot } from "../../shots/useShot";
import { ink } from "../../theme/system";
import type { Tones } from "../../tones/sceneData";

const SHUTTER_TICKS = [1 / 1000, 1 / 125, 1 / 15, 0.5, 4, 30, 240, 1800];
const TICK_WORDS = ["1/1000", "1/125", "1/15", "0.5 s", "4 s", "30 s", "4'", "30'"];
const signed = (stops: number) =>
  `${stops > 0 ? "+" : stops < 0 ? "−" : ""}${Math.abs(stops).toFixed(stops % 1 ? 2 : 0)}`;

/** The stops ledger, the shutter on its scale with the looks of this water, and what each frame holds of the scene. */
export function Ledger({ shot, tones }: { shot: Shot; tones: Tones | undefined }) {
  const { exposure } = shot.plan;
  const scene = sceneOf(shot, tones);
  return (
    <Drawing
      title="The stops ledger"
      note={
        exposure.predicted
          ? `predicted from sun and moon ${shot.plan.light.ev_source}, not metered`
          : "from the reading down; the shutter is what is left"
      }
      figures={{
        head: ["Line", "", "Stops", "Shutter"],
        rows: exposure.ledger.map((item) => [item.label, item.detail, signed(item.stops), item.shutter_label]),
      }}
    >
      {(width, height) => {
        const rows = exposure.ledger;
        const bars = Math.min(5, exposure.exposures.length) + 1;
        const scaleHeight = 96;
        const rangeHeight = 46 + bars * 17;
        const rowHeight = Math.min(50, Math.max(30, (height - rangeHeight - scaleHeight - 34) / (rows.length + 1)));
        const nameWidth = Math.min(210, width * 0.3);
        const barLeft = nameWidth + 8;
        const barRight = width - 142;
        // The ledger runs along the balance in stops: every line starts where the one before ended.
        const running: number[] = [];
        let sum = 0;
        for (const item of rows) {
          running.push(sum);
          sum += item.stops;
        }
        const low = Math.min(0, ...running, sum);
        const high = Math.max(1, ...running, sum);
        const x = scaleLinear()
          .domain([low, high])
          .range([barLeft, barRight - 10]);
        const footY = (rows.length + 1) * rowHeight + 12;
        const scaleTop = footY + 22;
        const rangeTop = scaleTop + scaleHeight + 4;
        const pitch = Math.min(30, Math.max(17, (height - rangeTop - 44) / bars));
        return (
          <>
            <defs>
              <Hatch id="cost-hatch" tone="edge" gap={6} />
              <Hatch id="lost-hatch" tone="rust" gap={5} width={1.5} />
            </defs>
            {rows.map((item, index) => {
              const y = 4 + index * rowHeight;
              const from = running[index] ?? 0;
              const [a, b] = [x(Math.min(from, from + item.stops)), x(Math.max(from, from + item.stops))];
              return (
                <g key={`${item.kind}${item.label}`} data-ledger={item.kind}>
                  <line x1={0} x2={width} y1={y + rowHeight} y2={y + rowHeight} stroke={ink("line")} />
                  <text x={0} y={y + rowHeight / 2 - 8} dy="0.35em" fontSize="14" fontWeight={550} fill={ink("fg")}>
                    {item.label}
                  </text>
                  <text x={0} y={y + rowHeight / 2 + 8} dy="0.35em" fontSize="13" fill={ink("muted")}>
                    {item.detail}
                  </text>
                  {item.stops !== 0 && (
                    <>
                      <rect
                        x={a}
                        width={Math.max(2, b - a)}
                        y={y + rowHeight / 2 - 5}
                        height={10}
                        fill={item.stops > 0 ? ink("far") : "url(#cost-hatch)"}
                        stroke={ink("edge")}
                      />
                      <text
                        className="figure"
                        x={b + 6}
                        y={y + rowHeight / 2}
                        dy="0.35em"
                        fontSize="13"
                        fill={ink("fg")}
                      >
                        {signed(item.stops)}
                      </text>
                    </>
                  )}
                  <text
                    className="figure"
                    x={width}
                    y={y + rowHeight / 2}
                    dy="0.35em"
                    fontSize="14"
                    textAnchor="end"
                    fill={ink("fg")}
                  >
                    {item.shutter_label}
                  </text>
                </g>
              );
            })}
            <g transform={`translate(0 ${4 + rows.length * rowHeight})`}>
              <text y={rowHeight * 0.62} dy="0.2em" fontSize="14" fontWeight={650} fill={ink("fg")}>
                Shutter
              </text>
              <text className="figure" x={barLeft} y={rowHeight * 0.62} dy="0.2em" fontSize="13" fill={ink("muted")}>
                {signed(exposure.ledger_stops ?? 0)} stops in all
              </text>
              <text
                className="figure"
                x={width}
                y={rowHeight * 0.62}
                dy="0.25em"
                fontSize="24"
                fontWeight={600}
                textAnchor="end"
                fill={ink("accent")}
              >
                {exposure.shutter?.label}
              </text>
            </g>
            <g transform={`translate(0 ${scaleTop})`}>{shutterScale(shot, width)}</g>
            <g transform={`translate(0 ${rangeTop})`}>{rangeBars(shot, width, scene, pitch)}</g>
          </>
        );
      }}
    </Drawing>
  );
}

function shutterScale(shot: Shot, width: number) {
  const { exposure } = shot.plan;
  const shutter = exposure.shutter?.value ?? 1;
  const low = Math.min(1 / 2000, shutter / 2);
  const high = Math.max(3600, shutter * 2);
  const x = scaleLog()
    .domain([low, high])
    .range([6, width - 6])
    .clamp(true);
  const bandTop = 22;
  return (
    <>
      <text y={8} fontSize="13" fill={ink("muted")}>
        {exposure.looks.length
          ? "What this water looks like at which shutter"
          : "The shutter; an element with a speed adds looks of water"}
      </text>
      {exposure.looks.map((band, index) => {
        const from = band.from_s > 0 ? x(band.from_s) : x(low);
        const to = x(band.to_s);
        if (to - from < 1) return null;
        return (
          <g key={band.name}>
            <rect
              x={from}
              width={to - from}
              y={bandTop}
              height={24}
              fill={index % 2 ? ink("raised") : ink("low")}
              stroke={band.name === exposure.look ? ink("accent") : ink("line")}
              strokeWidth={band.name === exposure.look ? 2 : 1}
            />
            {to - from > 52 && (
              <text x={(from + to) / 2} y={bandTop + 12} dy="0.35em" textAnchor="middle" fontSize="13" fill={ink("fg")}>
                {band.name}
              </text>
            )}
          </g>
        );
      })}
      <line x1={6} x2={width - 6} y1={bandTop + 26} y2={bandTop + 26} stroke={ink("edge")} />
      {SHUTTER_TICKS.map((seconds, index) => (
        <g key={seconds} transform={`translate(${x(seconds)} ${bandTop + 26})`}>
          <line y2={5} stroke={ink("edge")} />
          <text className="figure" y={18} fontSize="12" textAnchor="middle" fill={ink("muted")}>
            {TICK_WORDS[index]}
          </text>
        </g>
      ))}
      {exposure.wanted?.value && (
        <g transform={`translate(${x(exposure.wanted.value)} ${bandTop - 3})`}>
          <path d="M0 0 L-5 -8 H5 Z" fill="none" stroke={ink("haze")} strokeWidth={1.75} />
          <line y2={29} stroke={ink("haze")} strokeDasharray="3 3" />
          {/* On the side where the shutter that is set does not stand. */}
          <text
            {...(shutter < exposure.wanted.value ? { x: 9, textAnchor: "start" } : { x: -9, textAnchor: "end" })}
            y={-3}
            fontSize="13"
            fill={ink("haze")}
          >
            wanted
          </text>
        </g>
      )}
      <g transform={`translate(${x(shutter)} ${bandTop - 3})`}>
        <path d="M0 0 L-6 -9 H6 Z" fill={ink("accent")} />
        <line y2={32} stroke={ink("accent")} strokeWidth={2.5} />
      </g>
    </>
  );
}

interface SceneRange {
  shadow: number | null;
  highlight: number | null;
  predicted: boolean;
}

/** The scene's range as it was read, else as the picture in tones predicts it. */
function sceneOf({ plan }: Shot, tones: Tones | undefined): SceneRange {
  const { shadow_ev: shadow, highlight_ev: highlight } = plan.exposure;
  if ((shadow === null || highlight === null) && tones)
    return { shadow: tones.shadow_ev, highlight: tones.highlight_ev, predicted: true };
  return { shadow, highlight, predicted: false };
}

function rangeBars(shot: Shot, width: number, { shadow, highlight, predicted }: SceneRange, pitch: number) {
  const { exposure } = shot.plan;
  const frames = exposure.exposures;
  const values = frames.flatMap((item) => [item.darkest_ev, item.brightest_ev]);
  const low = Math.floor(Math.min(...values, shadow ?? values[0] ?? 0)) - 1;
  const high = Math.ceil(Math.max(...values, highlight ?? values[0] ?? 0)) + 1;
  const left = 78;
  const x = scaleLinear()
    .domain([low, high])
    .range([left, width - 64]);
  const shown = frames.slice(0, 5);
  const top = 20;
  return (
    <>
      <text y={8} fontSize="13" fill={ink("muted")}>
        {shadow !== null && highlight !== null
          ? `The scene${predicted ? ", as predicted," : ""} over what each frame holds, EV at ISO 100`
          : "What the frame holds, EV: read highlight and shadow"}
      </text>
      {x.ticks(8).map((tick) => (
        <g key={tick}>
          <line x1={x(tick)} x2={x(tick)} y1={top - 4} y2={top + 6 + pitch * (shown.length + 1)} stroke={ink("line")} />
          <text
            className="figure"
            x={x(tick)}
            y={top + 18 + pitch * (shown.length + 1)}
            fontSize="12"
            textAnchor="middle"
            fill={ink("muted")}
            stroke={ink("bg")}
            strokeWidth={3}
            paintOrder="stroke"
          >
            {tick}
          </text>
        </g>
      ))}
      {shadow !== null && highlight !== null && (
        <g>
          <text x={0} y={top + (pitch - 5) / 2} dy="0.35em" fontSize="13" fill={ink("fg")}>
            scene
          </text>
          <rect
            x={x(shadow)}
            width={x(highlight) - x(shadow)}
            y={top}
            height={pitch - 5}
            fill="url(#lost-hatch)"
            stroke={ink("rust")}
          />
          {frames.length > 0 && (
            <rect
              x={x(Math.max(shadow, Math.min(...frames.map((item) => item.darkest_ev))))}
              width={Math.max(
                0,
                x(Math.min(highlight, Math.max(...frames.map((item) => item.brightest_ev)))) -
                  x(Math.max(shadow, Math.min(...frames.map((item) => item.darkest_ev)))),
              )}
              y={top}
              height={pitch - 5}
              fill={ink("fg")}
            />
          )}
          <text
            className="figure"
            x={width}
            y={top + (pitch - 5) / 2}
            dy="0.35em"
            fontSize="13"
            textAnchor="end"
            fill={ink("fg")}
          >
            {(highlight - shadow).toFixed(1)}
          </text>
        </g>
      )}
      {shown.map((item, index) => (
        <g key={item.offset_ev} transform={`translate(0 ${top + (index + 1) * pitch})`} data-exposure={index + 1}>
          <text
            className="figure"
            y={(pitch - 5) / 2}
            dy="0.35em"
            fontSize="13"
            fontWeight={index === exposure.carrying ? 700 : 400}
            fill={ink("fg")}
          >
            {item.shutter_label}
          </text>
          <rect
            x={x(item.darkest_ev)}
            width={x(item.brightest_ev) - x(item.darkest_ev)}
            y={0}
            height={pitch - 5}
            fill={ink("accent")}
            opacity={0.85}
          />
          {item.look && frames.length > 1 && x(item.brightest_ev) - x(item.darkest_ev) > 90 && (
            <text x={x(item.darkest_ev) + 6} y={(pitch - 5) / 2} dy="0.35em" fontSize="12" fill={ink("onAccent")}>
              {item.look}
            </text>
          )}
          <text
            className="figure"
            x={width}
            y={(pitch - 5) / 2}
            dy="0.35em"
            fontSize="13"
            textAnchor="end"
            fill={ink("muted")}
          >
            {item.offset_ev > 0.005 ? `+${Number(item.offset_ev.toFixed(2))}` : "0"} EV
          </text>
        </g>
      ))}
    </>
  );
}
