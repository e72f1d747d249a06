import type { KeyboardEvent, PointerEvent, ReactNode } from "react";
import { useEffect, useRef } from "react";
import { flushSync } from "react-dom";
import { ink } from "../theme/system";
import { catchUp, forget, inStep } from "./inStep";

const GRIP = 9;

/** Something in a drawing that can be dragged, or moved with the arrow keys once it has the focus. */
export function Handle({
  x,
  y,
  label,
  valueText,
  value,
  range,
  drag,
  nudge,
  done,
  children,
  cursor = "grab",
}: {
  x: number;
  y: number;
  label: string;
  valueText: string;
  value: number;
  /** Between which the value can lie. */
  range: readonly [number, number];
  /** Called with drawing coordinates while dragging. */
  drag: (x: number, y: number) => void;
  /** Called with -1 or 1 along each axis, ten times as much with Shift. */
  nudge: (right: number, up: number) => void;
  /** Called when the hand lets go. */
  done?: () => void;
  children?: ReactNode;
  cursor?: string;
}) {
  const grabbed = useRef<{ dx: number; dy: number } | null>(null);
  // What is followed later is followed by what the drawing then is.
  const hand = useRef({ drag, done });
  hand.current.drag = drag;
  hand.current.done = done;
  useEffect(() => {
    const mine = hand.current;
    return () => forget(mine);
  }, []);
  const letGo = () => {
    grabbed.current = null;
    // What is done with it is done with the last place.
    flushSync(() => catchUp(hand.current));
    hand.current.done?.();
  };
  const at = (event: PointerEvent<SVGGElement>) => {
    const box = event.currentTarget.ownerSVGElement?.getBoundingClientRect();
    return { x: event.clientX - (box?.left ?? 0), y: event.clientY - (box?.top ?? 0) };
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const far = event.shiftKey ? 10 : 1;
    const moves: Record<string, [number, number]> = {
      ArrowLeft: [-far, 0],
      ArrowRight: [far, 0],
      ArrowUp: [0, far],
      ArrowDown: [0, -far],
    };
    const move = moves[event.key];
    if (!move) return;
    event.preventDefault();
    event.stopPropagation();
    nudge(...move);
  };
  return (
    <g
      data-handle=""
      role="slider"
      tabIndex={0}
      aria-label={label}
      aria-valuenow={value}
      aria-valuemin={range[0]}
      aria-valuemax={range[1]}
      aria-valuetext={valueText}
      transform={`translate(${x} ${y})`}
      style={{ cursor, touchAction: "none" }}
      onPointerDown={(event) => {
        const point = at(event);
        grabbed.current = { dx: point.x - x, dy: point.y - y };
        event.currentTarget.setPointerCapture(event.pointerId);
        event.currentTarget.focus();
      }}
      onPointerMove={(event) => {
        if (!grabbed.current) return;
        const point = at(event);
        const [toX, toY] = [point.x - grabbed.current.dx, point.y - grabbed.current.dy];
        inStep(hand.current, () => hand.current.drag(toX, toY));
      }}
      onPointerUp={letGo}
      onPointerCancel={letGo}
      onKeyDown={onKeyDown}
    >
      <circle r={GRIP + 9} fill="transparent" />
      {children ?? <circle r={GRIP} fill={ink("bg")} stroke={ink("accent")} strokeWidth={2.5} />}
    </g>
  );
}
