import { Box, chakra } from "@chakra-ui/react";
import { type KeyboardEvent, type PointerEvent, useEffect, useId, useRef, useState } from "react";
import { useSize } from "../drawing/useSize";
import { useDraft } from "../parts/useDraft";
import { ink } from "../theme/system";

export interface Detent {
  value: number;
  label: string;
}

const GAP = 30;
const HEIGHT = 40;

/** The detent nearest a value, on the scale of stops. */
export function nearestDetent(detents: Detent[], value: number): number {
  let best = 0;
  detents.forEach((detent, index) => {
    if (Math.abs(Math.log(detent.value / value)) < Math.abs(Math.log((detents[best]?.value ?? 1) / value))) best = index;
  });
  return best;
}

/**
 * An engraved scale that slides under a fixed index. Drag it, turn the wheel, use the arrow keys, or type into the figure.
 * A value that the photographer chose is underlined and can be let go; one that the application chose stands upright.
 */
export function Dial({
  label,
  name,
  detents,
  value,
  text,
  unit,
  pinned,
  set,
  letGo,
  error,
}: {
  label: string;
  /** The field's name, unique over the application. */
  name: string;
  detents: Detent[];
  value: number | null;
  /** How the value is written now. */
  text: string;
  unit?: string;
  pinned: boolean;
  /** A detent's value, or text as it was typed for the server to read. */
  set: (value: number | string) => void;
  letGo?: (() => void) | undefined;
  error?: string | undefined;
}) {
  const id = useId();
  const [frame, size] = useSize<HTMLDivElement>();
  const [draft, setDraft] = useDraft(name);
  const grip = useRef<{ x: number; index: number } | null>(null);
  const strip = useRef<SVGSVGElement>(null);
  const [sliding, setSliding] = useState<number | null>(null);
  const current = value === null ? Math.floor(detents.length / 2) : nearestDetent(detents, value);
  const exact = value === null ? current : between(detents, value, current);
  const shown = sliding ?? exact;

  // Where quick key presses have got to before the server's answer to the first of them.
  const asked = useRef<number | null>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: an answer or a refusal ends the run
  useEffect(() => {
    asked.current = null;
  }, [value, error]);
  const step = (by: number) => {
    asked.current = Math.min(detents.length - 1, Math.max(0, (asked.current ?? current) + by));
    go(asked.current);
  };
  const go = (index: number) => {
    const target = detents[Math.min(detents.length - 1, Math.max(0, index))];
    if (target && (value === null || target.value !== value)) set(target.value);
    setDraft(undefined);
  };
  const latest = useRef(step);
  latest.current = step;
  // biome-ignore lint/correctness/useExhaustiveDependencies: the strip exists once there is a width
  useEffect(() => {
    const target = strip.current;
    if (!target) return;
    // React's own wheel listener is passive and could not keep the page from scrolling.
    const onWheel = (event: WheelEvent) => {
      event.preventDefault();
      latest.current(event.deltaY + event.deltaX > 0 ? 1 : -1);
    };
    target.addEventListener("wheel", onWheel, { passive: false });
    return () => target.removeEventListener("wheel", onWheel);
  }, [size.width > 0]);

  const onKeyDown = (event: KeyboardEvent) => {
    const steps: Record<string, number> = { ArrowRight: 1, ArrowUp: 1, ArrowLeft: -1, ArrowDown: -1, PageUp: 3, PageDown: -3 };
    const by = steps[event.key];
    if (by === undefined) return;
    event.preventDefault();
    event.stopPropagation();
    step(by);
  };
  const onPointerMove = (event: PointerEvent) => {
    if (!grip.current) return;
    const position = grip.current.index - (event.clientX - grip.current.x) / GAP;
    const held = Math.min(detents.length - 1, Math.max(0, position));
    setSliding(held);
    const index = Math.round(held);
    if (detents[index] && detents[index].value !== value) set(detents[index].value);
  };
  const release = () => {
    grip.current = null;
    setSliding(null);
  };
  const middle = size.width / 2;
  return (
    <Box minW="0" ref={frame} data-field={name.slice(name.lastIndexOf(":") + 1)}>
      <Box display="flex" alignItems="baseline" gap="8px" minH="30px">
        <chakra.label htmlFor={id} fontSize="13px" color="muted" flex="1">
          {label}
        </chakra.label>
        {pinned && letGo && (
          <chakra.button
            type="button"
            onClick={letGo}
            fontSize="12px"
            color="muted"
            bg="transparent"
            border="0"
            p="0"
            cursor="pointer"
            textDecoration="underline"
            aria-label={`Let go of ${label}`}
            title="Pinned by you; let the application choose"
          >
            let go
          </chakra.button>
        )}
        <chakra.input
          id={id}
          value={draft ?? text}
          onChange={(event) => setDraft(event.target.value)}
          onBlur={() => draft !== undefined && draft !== text && set(draft)}
          onKeyDown={(event) => {
            if (event.key === "Enter" && draft !== undefined) set(draft);
            if (event.key === "Escape") setDraft(undefined);
          }}
          onFocus={(event) => event.currentTarget.select()}
          aria-invalid={error ? true : undefined}
          aria-describedby={error ? `${id}-error` : undefined}
          autoComplete="off"
          fontFamily="mono"
          fontSize="21px"
          lineHeight="1.2"
          textAlign="right"
          fontVariantNumeric="tabular-nums"
          data-pinned={pinned || undefined}
          width={`${Math.max(5, (draft ?? text).length + 1)}ch`}
          maxW="60%"
          bg="transparent"
          border="0"
          borderBottom={pinned ? "2px solid" : "2px solid transparent"}
          p="0"
        />
        {unit && (
          <Box as="span" fontSize="13px" color="muted">
            {unit}
          </Box>
        )}
      </Box>
      <svg
        ref={strip}
        width={size.width}
        height={HEIGHT}
        role="slider"
        tabIndex={0}
        aria-label={`${label} scale`}
        aria-valuemin={0}
        aria-valuemax={detents.length - 1}
        aria-valuenow={current}
        aria-valuetext={text}
        onKeyDown={onKeyDown}
        onPointerDown={(event) => {
          grip.current = { x: event.clientX, index: shown };
          event.currentTarget.setPointerCapture(event.pointerId);
        }}
        onPointerMove={onPointerMove}
        onPointerUp={release}
        onPointerCancel={release}
        style={{ display: "block", cursor: "ew-resize", touchAction: "pan-y", overflow: "hidden" }}
      >
        <rect width={size.width} height={HEIGHT} fill={ink("raised")} rx="2" />
        {detents.map((detent, index) => {
          const x = middle + (index - shown) * GAP;
          if (x < -GAP || x > size.width + GAP) return null;
          const chosen = index === current && sliding === null;
          return (
            <g key={detent.label} transform={`translate(${x.toFixed(1)} 0)`}>
              <line y1={HEIGHT - 11} y2={HEIGHT - 2} stroke={ink("edge")} strokeWidth={index % 3 ? 1 : 1.5} />
              <text
                className="figure"
                y={HEIGHT - 18}
                textAnchor="middle"
                fontSize="11.5"
                fill={chosen ? ink("accent") : ink("fg")}
                opacity={chosen || index % 3 === current % 3 ? 1 : 0}
              >
                {detent.label.replace(/^f\/|( s)$/g, "")}
              </text>
            </g>
          );
        })}
        <path d={`M${middle - 6} ${0} h12 l-6 8 Z`} fill={ink("accent")} />
        <line x1={middle} x2={middle} y1={HEIGHT - 14} y2={HEIGHT} stroke={ink("accent")} strokeWidth={2} />
      </svg>
      {error && (
        <Box role="alert" id={`${id}-error`} color="rust" fontSize="13px" mt="2px">
          {error}
        </Box>
      )}
    </Box>
  );
}

/** Where a value lies between its detents, so that odd values stand between the marks. */
function between(detents: Detent[], value: number, nearest: number): number {
  const here = detents[nearest];
  if (!here || value <= 0) return nearest;
  const towards = value > here.value === (detents[detents.length - 1]?.value ?? 1) > (detents[0]?.value ?? 0) ? 1 : -1;
  const next = detents[nearest + towards];
  if (!next) return nearest;
  return nearest + (towards * Math.log(value / here.value)) / Math.log(next.value / here.value);
}
