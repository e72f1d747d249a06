import { type KeyboardEvent, type PointerEvent, type RefObject, useRef, useState } from "react";
import { ink } from "../theme/system";
import type { Detent } from "./scale";
import { useWheel } from "./useSteps";

const GAP = 30;
const HEIGHT = 40;

/** The engraved strip under its index, turned by hand, wheel and keys. */
export function Strip({
  label,
  text,
  detents,
  value,
  width,
  current,
  exact,
  go,
  step,
  latest,
}: {
  label: string;
  text: string;
  detents: Detent[];
  value: number | null;
  width: number;
  /** The mark that the value is nearest to, and where it stands between two. */
  current: number;
  exact: number;
  go: (index: number) => void;
  step: (by: number, quiet: boolean) => void;
  latest: RefObject<(by: number) => void>;
}) {
  const strip = useRef<SVGSVGElement>(null);
  const grip = useRef<{ x: number; index: number } | null>(null);
  const [sliding, setSliding] = useState<number | null>(null);
  useWheel(strip, width > 0, latest);
  const at = sliding ?? exact;
  const middle = width / 2;
  const last = detents.length - 1;
  const onKeyDown = (event: KeyboardEvent) => {
    const by = {
      ArrowRight: 1,
      ArrowUp: 1,
      ArrowLeft: -1,
      ArrowDown: -1,
      PageUp: 3,
      PageDown: -3,
      Home: -last - 1,
      End: last + 1,
    }[event.key];
    if (by === undefined) return;
    event.preventDefault();
    event.stopPropagation();
    step(by, event.key === "Home" || event.key === "End");
  };
  const onPointerMove = (event: PointerEvent) => {
    if (!grip.current) return;
    const held = Math.min(last, Math.max(0, grip.current.index - (event.clientX - grip.current.x) / GAP));
    setSliding(held);
    const index = Math.round(held);
    if (detents[index] && detents[index].value !== value) go(index);
  };
  const release = () => {
    grip.current = null;
    setSliding(null);
  };
  return (
    <svg
      ref={strip}
      width={width}
      height={HEIGHT}
      role="slider"
      tabIndex={0}
      aria-label={`${label} scale`}
      aria-valuemin={0}
      aria-valuemax={Math.max(0, last)}
      aria-valuenow={current}
      aria-valuetext={text || "not chosen"}
      onKeyDown={onKeyDown}
      onPointerDown={(event) => {
        grip.current = { x: event.clientX, index: at };
        event.currentTarget.setPointerCapture(event.pointerId);
      }}
      onPointerMove={onPointerMove}
      onPointerUp={release}
      onPointerCancel={release}
      style={{ display: "block", cursor: "ew-resize", touchAction: "pan-y", overflow: "hidden" }}
    >
      <rect width={width} height={HEIGHT} fill={ink("raised")} rx="2" />
      <Marks detents={detents} at={at} width={width} current={current} sliding={sliding !== null} />
      <path d={`M${middle - 6} ${0} h12 l-6 8 Z`} fill={ink("accent")} />
      <line x1={middle} x2={middle} y1={HEIGHT - 14} y2={HEIGHT} stroke={ink("accent")} strokeWidth={2} />
    </svg>
  );
}

/** The marks that are in sight: every third is named. */
function Marks({
  detents,
  at,
  width,
  current,
  sliding,
}: {
  detents: Detent[];
  at: number;
  width: number;
  current: number;
  sliding: boolean;
}) {
  return detents.map((detent, index) => {
    const x = width / 2 + (index - at) * GAP;
    if (x < -GAP || x > width + GAP) return null;
    const chosen = index === current && !sliding;
    return (
      <g key={detent.label} transform={`translate(${x.toFixed(1)} 0)`}>
        <line y1={HEIGHT - 11} y2={HEIGHT - 2} stroke={ink("edge")} strokeWidth={index % 3 ? 1 : 1.5} />
        <text
          className="figure"
          y={HEIGHT - 18}
          textAnchor="middle"
          fontSize="12"
          fill={chosen ? ink("accent") : ink("fg")}
          opacity={chosen || index % 3 === current % 3 ? 1 : 0}
        >
          {detent.label.replace(/^f\//, "")}
        </text>
      </g>
    );
  });
}
