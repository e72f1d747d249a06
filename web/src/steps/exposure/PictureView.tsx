import { useEffect, useMemo, useState } from "react";
import { Drawing } from "../../drawing/Drawing";
import { Handle } from "../../drawing/Handle";
import { percent, percentInUse } from "../../lib/format/numbers";
import type { ShotWork } from "../../shots/useShot";
import { ink } from "../../theme/system";
import type { Graduated } from "../../tones/sceneData";
import { TonalCanvas } from "../../tones/TonalCanvas";
import { type Toned, useResponse } from "../../tones/useTones";
import { Choice } from "../../ui/form/Field";
import { Histogram } from "./Histogram";

const ev = (value: number) => value.toFixed(1);
const HISTOGRAM = 92;
const TILT_ARM = 0.32;

interface Place {
  left: number;
  top: number;
  w: number;
  h: number;
}

/** The picture as the sensor holds it, with what clips and blocks hatched, the edge of a graduated filter to be dragged, and the histogram. */
export function PictureView({
  shot,
  set,
  errors,
  toned,
  through,
}: ShotWork & { toned: Toned; through: string | undefined }) {
  const { frame, exposure } = shot.plan;
  const { tones } = toned;
  const [index, setIndex] = useState<number | null>(null);
  const edge = useEdge(toned, { set, errors });
  const response = useResponse(shot, toned, index, { held: edge.held, through });
  const matrix = frame.view?.matrix ?? [];
  const aspect = (frame.width_mm ?? 3) / (frame.height_mm ?? 2);
  const blurs = useMemo(() => new Map(frame.elements.map((item) => [item.id, item.blur_share ?? 0])), [frame.elements]);
  const behind = frame.close_up?.background_blur_share ?? 0;
  const view = useMemo(
    () => ({ matrix, fit: 1, shifts: toned.moved, blurs, behind }),
    [matrix, blurs, behind, toned.moved],
  );
  const chosen = index ?? tones.carrying;
  const now = tones.frames[chosen];
  const boxOf = (width: number, height: number): Place => {
    const w = Math.min(width, (height - HISTOGRAM - 26) * aspect);
    return { w, h: w / aspect, left: (width - w) / 2, top: 0 };
  };
  return (
    <Drawing
      title="The picture in tones"
      note={now ? `${percentInUse(now.clipped)} clipped, ${percentInUse(now.blocked)} blocked` : "as predicted"}
      tools={
        exposure.exposures.length > 1 ? (
          <Choice
            label="Frame"
            value={String(chosen)}
            options={exposure.exposures.map((item, at) => ({ value: String(at), label: item.shutter_label }))}
            choose={(value) => setIndex(Number(value))}
          />
        ) : undefined
      }
      figures={{
        head: ["Part", "EV at ISO 100", "may be off by", "from", "to", "of the frame"],
        rows: tones.parts.map((part) => [
          part.name,
          ev(part.middle_ev),
          `± ${ev(part.spread_stops)}`,
          ev(part.low_ev),
          ev(part.high_ev),
          percentInUse(part.share),
        ]),
      }}
      under={(width, height) => {
        const { w, h, left, top } = boxOf(width, height);
        return (
          response && (
            <TonalCanvas toned={toned} view={view} response={response} left={left} top={top} width={w} height={h} />
          )
        );
      }}
    >
      {(width, height) => {
        const box = boxOf(width, height);
        return (
          <>
            <rect x={box.left} y={box.top} width={box.w} height={box.h} fill="none" stroke={ink("edge")} />
            {edge.graduated && <Edge box={box} graduated={edge.graduated} move={edge.move} tilt={edge.tilt} />}
            <g transform={`translate(0 ${box.top + box.h + 8})`}>
              <Histogram shot={shot} tones={tones} index={chosen} width={width} height={HISTOGRAM} />
            </g>
          </>
        );
      }}
    </Drawing>
  );
}

const same = (one: number | undefined, other: number | undefined) =>
  one !== undefined && other !== undefined && Math.abs(one - other) < 1e-6;

/** The edge of the graduated filters, as it stands or as a hand holds it just now. */
function useEdge({ tones }: Toned, { set, errors }: Pick<ShotWork, "set" | "errors">) {
  const [held, setHeld] = useState<Partial<Graduated>>({});
  const { graduated } = tones;
  const refused = !!errors.graduated_at || !!errors.graduated_tilt_deg;
  useEffect(() => {
    // What has been answered, or refused, is not held any more; an older answer on its way does not take it out of the hand.
    setHeld((old) => {
      const at = refused || same(old.at, graduated?.at) ? undefined : old.at;
      const tiltDeg = refused || same(old.tiltDeg, graduated?.tilt_deg) ? undefined : old.tiltDeg;
      return at === old.at && tiltDeg === old.tiltDeg
        ? old
        : { ...(at === undefined ? {} : { at }), ...(tiltDeg === undefined ? {} : { tiltDeg }) };
    });
  }, [graduated?.at, graduated?.tilt_deg, refused]);
  const move = (at: number) => {
    const next = Math.round(1000 * Math.max(-1, Math.min(2, at))) / 1000;
    setHeld((old) => ({ ...old, at: next }));
    set({ graduated_at: next });
  };
  const tilt = (degrees: number) => {
    const next = Math.round(2 * Math.max(-90, Math.min(90, degrees))) / 2;
    setHeld((old) => ({ ...old, tiltDeg: next }));
    set({ graduated_tilt_deg: next });
  };
  const now = graduated && { at: held.at ?? graduated.at, tiltDeg: held.tiltDeg ?? graduated.tilt_deg };
  return { held, graduated: now, move, tilt };
}

/** Where the filter's transition has its middle: dragged up and down by its middle, tilted by its end. */
function Edge({
  box,
  graduated,
  move,
  tilt,
}: {
  box: Place;
  graduated: { at: number; tiltDeg: number };
  move: (at: number) => void;
  tilt: (degrees: number) => void;
}) {
  const { left, top, w, h } = box;
  const [x, y] = [left + w / 2, top + graduated.at * h];
  const turn = (graduated.tiltDeg * Math.PI) / 180;
  const end = { x: x + TILT_ARM * w * Math.cos(turn), y: y + TILT_ARM * w * Math.sin(turn) };
  const reach = Math.hypot(w, h);
  const percentDown = Math.round(100 * graduated.at);
  return (
    <g data-graduated-edge="">
      <clipPath id="picture-frame">
        <rect x={left} y={top} width={w} height={h} />
      </clipPath>
      <g clipPath="url(#picture-frame)">
        {[3, 1.25].map((wide) => (
          <line
            key={wide}
            x1={x - reach * Math.cos(turn)}
            y1={y - reach * Math.sin(turn)}
            x2={x + reach * Math.cos(turn)}
            y2={y + reach * Math.sin(turn)}
            stroke={ink(wide > 2 ? "bg" : "accent")}
            strokeWidth={wide}
            strokeDasharray="7 5"
          />
        ))}
      </g>
      <Handle
        x={x}
        y={y}
        label="Edge of the graduated filter"
        value={percentDown}
        range={[-100, 200]}
        valueText={`${percent(graduated.at)} down the frame`}
        cursor="ns-resize"
        drag={(_, toY) => move((toY - top) / h)}
        nudge={(_, up) => move(graduated.at - up * 0.005)}
      />
      <Handle
        x={end.x}
        y={end.y}
        label="Tilt of the graduated filter"
        value={graduated.tiltDeg}
        range={[-90, 90]}
        valueText={`${graduated.tiltDeg}° clockwise`}
        cursor="ns-resize"
        drag={(toX, toY) => tilt((Math.atan2(toY - y, Math.max(1, toX - x)) * 180) / Math.PI)}
        nudge={(right, up) => tilt(graduated.tiltDeg + 0.5 * (right - up))}
      >
        <circle r={6} fill={ink("bg")} stroke={ink("accent")} strokeWidth={2} />
      </Handle>
    </g>
  );
}
