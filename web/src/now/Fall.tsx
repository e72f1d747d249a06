import type { Schemas } from "../api/client";
import { hourText } from "../lib/format/spelling";

const WIDE = 620;
const HIGH = 118;
const FOOT = 18;
const TICKS_H = [0, 4, 8, 12, 16, 20];

/** The day's light as a slope, with the point where it stands now. */
export function Fall({ light }: { light: Schemas["LightNowOut"] }) {
  const { curve_ev100: curve, curve_step_s: step, now_s: now } = light;
  const whole = (curve.length - 1) * step;
  const [least, most] = [Math.min(...curve), Math.max(...curve)];
  const x = (seconds: number) => (seconds / whole) * WIDE;
  const y = (ev: number) => HIGH - FOOT - 6 - ((ev - least) / Math.max(1, most - least)) * (HIGH - FOOT - 16);
  const line = curve.map((ev, index) => `${x(index * step).toFixed(1)} ${y(ev).toFixed(1)}`).join(" L");
  const at = Math.min(curve.length - 1, Math.max(0, now / step));
  const before = Math.floor(at);
  const here =
    (curve[before] ?? 0) + (at - before) * ((curve[before + 1] ?? curve[before] ?? 0) - (curve[before] ?? 0));
  const sun = light.coming.filter((item) => ["sunrise", "sunset"].includes(item.kind) && item.seconds <= whole);
  return (
    <svg viewBox={`0 0 ${WIDE} ${HIGH}`} width="100%" role="img" aria-label={`The day's light; now ${light.clock}`}>
      <path d={`M0 ${HIGH - FOOT} L${line} L${WIDE} ${HIGH - FOOT} Z`} fill="var(--lr-colors-raised)" />
      <path d={`M${line}`} fill="none" stroke="var(--lr-colors-fg)" />
      {sun.map((item) => (
        <line
          key={item.kind}
          x1={x(item.seconds)}
          x2={x(item.seconds)}
          y1={HIGH - FOOT - 14}
          y2={HIGH - FOOT}
          stroke="var(--lr-colors-muted)"
        />
      ))}
      <line x1={x(now)} x2={x(now)} y1="4" y2={HIGH - FOOT} stroke="var(--lr-colors-accent)" strokeWidth="2" />
      <circle
        cx={x(now)}
        cy={y(here)}
        r="6"
        fill="var(--lr-colors-bg)"
        stroke="var(--lr-colors-accent)"
        strokeWidth="2.5"
      />
      {TICKS_H.filter((hour) => Math.abs(x(hour * 3600) - x(now)) > 48).map((hour) => (
        <text
          key={hour}
          x={x(hour * 3600) + 2}
          y={HIGH - 3}
          fontSize="12"
          fontFamily="var(--lr-fonts-mono)"
          fill="var(--lr-colors-muted)"
        >
          {hourText(hour)}
        </text>
      ))}
      <text
        x={Math.min(WIDE - 4, Math.max(4, x(now)))}
        y={HIGH - 2}
        textAnchor={x(now) < 60 ? "start" : x(now) > WIDE - 60 ? "end" : "middle"}
        fontSize="13"
        fontFamily="var(--lr-fonts-mono)"
        fill="var(--lr-colors-accent)"
      >
        {light.clock} now
      </text>
    </svg>
  );
}
