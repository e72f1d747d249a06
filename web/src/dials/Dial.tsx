import { Box, chakra } from "@chakra-ui/react";
import { type KeyboardEvent, type PointerEvent, useEffect, useId, useRef, useState } from "react";
import { useSize } from "../drawing/useSize";
import { afterPaint } from "../lib/drafts/afterPaint";
import { shown } from "../lib/drafts/editing";
import { useEditing } from "../lib/drafts/useEditing";
import { useKeptSelection } from "../lib/focus/useKeptSelection";
import { ink, REACH } from "../theme/system";
import { DraftNote } from "../ui/form/DraftNote";
import { between, type Detent, nearestDetent, stepped } from "./scale";

export type { Detent } from "./scale";

const GAP = 30;
const HEIGHT = 40;
const SAID_MS = 5000;

export interface Scale {
  marks: Detent[];
  /** Why it goes no further at either end. */
  at_start: string;
  at_end: string;
}

/**
 * An engraved scale that slides under a fixed index. Drag it, turn the wheel, use the arrow keys, or type into the figure.
 * A value that the photographer chose is underlined and can be made automatic again; one that the application chose stands upright.
 */
export function Dial({
  label,
  name,
  scale,
  value,
  text,
  unit,
  pinned,
  set,
  letGo,
  error,
  forgive,
}: {
  label: string;
  /** The field's name, unique over the application. */
  name: string;
  scale: Scale;
  value: number | null;
  /** How the value is written now. */
  text: string;
  unit?: string;
  pinned: boolean;
  /** A detent's value, or text as it was typed for the server to read; rejected where the server refuses it. */
  set: (value: number | string) => Promise<unknown>;
  letGo?: (() => void) | undefined;
  error?: string | undefined;
  forgive?: () => void;
}) {
  const id = useId();
  const detents = scale.marks;
  const [frame, size] = useSize<HTMLDivElement>();
  const edit = useEditing(name, text);
  const grip = useRef<{ x: number; index: number } | null>(null);
  const strip = useRef<SVGSVGElement>(null);
  const [sliding, setSliding] = useState<number | null>(null);
  const [ended, setEnded] = useState<string>();
  const current = value === null ? Math.floor(detents.length / 2) : nearestDetent(detents, value);
  const exact = value === null ? current : between(detents, value, current);
  const at = sliding ?? exact;

  // Where quick key presses have got to before the server's answer to the first of them.
  const asked = useRef<number | null>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: an answer or a refusal ends the run
  useEffect(() => {
    asked.current = null;
  }, [value, error]);
  useEffect(() => {
    if (!ended) return;
    const timer = setTimeout(() => setEnded(undefined), SAID_MS);
    return () => clearTimeout(timer);
  }, [ended]);
  const go = (index: number) => {
    const target = detents[index];
    edit.drop();
    forgive?.();
    if (target && (value === null || target.value !== value)) set(target.value).catch(() => undefined);
  };
  // A text on its way is read by the server: a step starts from what it makes of it.
  const sending = useRef<Promise<void> | null>(null);
  const step = (by: number) => {
    if (sending.current) return void sending.current.then(afterPaint).then(() => latest.current(by));
    const to = stepped(detents, asked.current ?? current, by);
    setEnded(to.end === "start" ? scale.at_start : to.end === "end" ? scale.at_end : undefined);
    asked.current = to.index;
    go(to.index);
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
    const last = detents.length - 1;
    const steps: Record<string, number> = {
      ArrowRight: 1,
      ArrowUp: 1,
      ArrowLeft: -1,
      ArrowDown: -1,
      PageUp: 3,
      PageDown: -3,
      Home: -last - 1,
      End: last + 1,
    };
    const by = steps[event.key];
    if (by === undefined) return;
    event.preventDefault();
    event.stopPropagation();
    step(by);
    if (event.key === "Home" || event.key === "End") setEnded(undefined);
  };
  const onPointerMove = (event: PointerEvent) => {
    if (!grip.current) return;
    const position = grip.current.index - (event.clientX - grip.current.x) / GAP;
    const held = Math.min(detents.length - 1, Math.max(0, position));
    setSliding(held);
    const index = Math.round(held);
    if (detents[index] && detents[index].value !== value) go(index);
  };
  const release = () => {
    grip.current = null;
    setSliding(null);
  };
  const send = (typed: string | undefined) => {
    if (typed === undefined) return;
    const sent = set(typed)
      .then(
        () => edit.taken(typed),
        () => edit.refused(typed),
      )
      .then(() => {
        if (sending.current === sent) sending.current = null;
      });
    sending.current = sent;
  };
  const drop = () => {
    edit.drop();
    forgive?.();
  };
  const middle = size.width / 2;
  const written = shown(edit.state, text);
  const unsent = edit.state.typed !== undefined;
  const selection = useKeptSelection(written, unsent);
  const refused = unsent ? error : undefined;
  return (
    <Box minW="0" ref={frame} data-field={name.slice(name.lastIndexOf(":") + 1)}>
      <Box display="flex" alignItems="baseline" gap="8px" minH="30px">
        <chakra.label htmlFor={id} fontSize="small" color="muted" flex="1">
          {label}
        </chakra.label>
        {pinned && letGo && (
          <chakra.button
            type="button"
            onClick={() => {
              drop();
              letGo();
            }}
            {...REACH}
            fontSize="note"
            color="muted"
            bg="transparent"
            border="0"
            px="4px"
            minH="24px"
            cursor="pointer"
            textDecoration="underline"
            aria-label={`automatic: ${label}`}
            title="Pinned by you; let the application choose"
          >
            automatic
          </chakra.button>
        )}
        <chakra.input
          {...selection}
          id={id}
          value={written}
          onChange={(event) => edit.type(event.target.value)}
          onFocus={(event) => {
            edit.enter();
            event.currentTarget.select();
          }}
          onBlur={() => send(edit.leave())}
          onKeyDown={(event) => {
            if (event.key === "Enter") send(edit.pending());
            if (event.key === "Escape") drop();
          }}
          aria-invalid={refused ? true : undefined}
          aria-describedby={refused ? `${id}-error` : undefined}
          autoComplete="off"
          fontFamily="mono"
          fontSize="title"
          lineHeight="1.2"
          textAlign="right"
          fontVariantNumeric="tabular-nums"
          data-pinned={pinned || undefined}
          data-editing={unsent || undefined}
          width={`${Math.max(5, written.length + 1)}ch`}
          maxW="60%"
          bg="transparent"
          border="0"
          borderBottom={pinned ? "2px solid" : "2px solid transparent"}
          p="0"
          minH={{ base: "44px", lg: "24px" }}
          my={{ base: "-7px", lg: "0" }}
        />
        {unit && (
          <Box as="span" fontSize="small" color="muted">
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
        aria-valuemax={Math.max(0, detents.length - 1)}
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
        <rect width={size.width} height={HEIGHT} fill={ink("raised")} rx="2" />
        {detents.map((detent, index) => {
          const x = middle + (index - at) * GAP;
          if (x < -GAP || x > size.width + GAP) return null;
          const chosen = index === current && sliding === null;
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
        })}
        <path d={`M${middle - 6} ${0} h12 l-6 8 Z`} fill={ink("accent")} />
        <line x1={middle} x2={middle} y1={HEIGHT - 14} y2={HEIGHT} stroke={ink("accent")} strokeWidth={2} />
      </svg>
      {ended && (
        <Box role="status" color="haze" fontSize="small" mt="2px">
          {ended}
        </Box>
      )}
      {refused && (
        <Box role="alert" id={`${id}-error`} color="rust" fontSize="small" mt="2px">
          {refused}
        </Box>
      )}
      <DraftNote state={edit.state} value={text} refused={refused !== undefined} use={send} drop={drop} />
    </Box>
  );
}
