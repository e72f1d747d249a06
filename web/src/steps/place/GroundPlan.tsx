import { scaleLog } from "d3-scale";
import { useEffect, useState } from "react";
import type { Schemas } from "../../api/client";
import { Drawing } from "../../drawing/Drawing";
import { Handle } from "../../drawing/Handle";
import { Labels, type NamedWish } from "../../drawing/Labels";
import { handleBox } from "../../drawing/labels";
import { lengthText, roundLength } from "../../lib/format/spelling";
import type { Shot } from "../../shots/useShot";
import { ink } from "../../theme/system";
import { useElements } from "./useElements";

type Element = Schemas["ElementOut"];

const RINGS = [0.1, 0.3, 1, 3, 10, 30, 100, 300, 1000, 3000, 10000, 30000, 100000];
const radians = (degrees: number) => (degrees * Math.PI) / 180;

/** The scene from above: bearings true, distances on a logarithmic scale, so that a stone and a fell fit on one page. */
export function GroundPlan({ shot, shadows = [] }: { shot: Shot; shadows?: Schemas["ShadowOut"][] }) {
  const { edit } = useElements();
  const elements = shot.place?.viewpoint.elements ?? [];
  const [moved, setMoved] = useState<{ id: number; bearing: number; distance: number }>();
  // biome-ignore lint/correctness/useExhaustiveDependencies: what the server says ends a drag
  useEffect(() => setMoved(undefined), [shot.place]);
  const at = (element: Element) =>
    moved?.id === element.id
      ? { bearing: moved.bearing, distance: moved.distance }
      : { bearing: element.bearing_deg, distance: element.distance_m };
  const frame = shot.plan.frame;
  const nearest = Math.min(...elements.map((item) => item.distance_m), 1);
  const farthest = Math.max(...elements.map((item) => item.distance_m), 10);
  return (
    <Drawing
      title={shot.place?.location_name ?? "Place"}
      note={`${shot.place?.viewpoint.name ?? ""}, from above${shadows.length ? "; shadows dashed" : ""}`}
      figures={{
        head: ["Element", "Bearing", "Distance", "Width", "Height"],
        rows: elements.map((item) => [
          item.name,
          `${item.bearing_deg.toFixed(0)}°`,
          item.distance_label,
          lengthText(item.width_m, 1),
          lengthText(item.height_m, 1),
        ]),
      }}
    >
      {(width, height) => {
        // Orientation where the view has most room ahead of it.
        const facing = radians(frame.bearing_deg ?? elements[0]?.bearing_deg ?? 0);
        const margin = 34;
        const cx = width / 2 - Math.sin(facing) * (width / 2 - margin) * 0.72;
        const cy = height / 2 + Math.cos(facing) * (height / 2 - margin) * 0.72;
        const reach = Math.min(
          room(cx, Math.sin(facing), margin + 30, width - margin - 30),
          room(cy, -Math.cos(facing), margin, height - margin),
        );
        const scale = scaleLog()
          .domain([nearest * 0.55, farthest * 1.15])
          .range([18, reach * 0.86])
          .clamp(true);
        const point = (bearing: number, distance: number): [number, number] => [
          cx + Math.sin(radians(bearing)) * scale(distance),
          cy - Math.cos(radians(bearing)) * scale(distance),
        ];
        const rings = RINGS.map(roundLength).filter((ring) => ring >= nearest * 0.6 && ring <= farthest * 1.1);
        const half = (frame.horizontal_fov_deg ?? 0) / 2;
        const wedge =
          frame.bearing_deg !== null && half
            ? [-half, half].map((side) => [
                cx + Math.sin(facing + radians(side)) * reach * 1.5,
                cy - Math.cos(facing + radians(side)) * reach * 1.5,
              ])
            : null;
        const seen = elements.map((element) => ({ element, ...at(element) }));
        const places = seen.map(({ bearing, distance }) => point(bearing, distance));
        const wishes: NamedWish[] = [
          ...seen.map(({ element }, index): NamedWish => {
            const [atX, atY] = places[index] ?? [0, 0];
            return { id: element.id, text: element.name, size: 13, x: atX, y: atY, side: "right", gap: 11 };
          }),
          ...rings.map(
            (ring): NamedWish => ({
              id: `ring ${ring}`,
              text: lengthText(ring),
              size: 12,
              x: cx + Math.sin(facing + radians(half + 9)) * scale(ring),
              y: cy - Math.cos(facing + radians(half + 9)) * scale(ring),
              side: "on",
              mono: true,
              tone: "muted",
            }),
          ),
        ];
        const taken = [
          handleBox(cx, cy, 9),
          { x: 12, y: height - 50, width: 24, height: 46 },
          ...places.map(([atX, atY]) => handleBox(atX, atY, 8)),
        ];
        return (
          <>
            <defs>
              <clipPath id="ground-frame">
                <rect width={width} height={height} />
              </clipPath>
            </defs>
            <g clipPath="url(#ground-frame)">
              {wedge && (
                <path
                  d={`M${cx} ${cy} L${wedge[0]?.join(" ")} L${wedge[1]?.join(" ")} Z`}
                  fill={ink("raised")}
                  stroke={ink("edge")}
                  strokeDasharray="4 4"
                />
              )}
              {rings.map((ring) => (
                <circle key={ring} cx={cx} cy={cy} r={scale(ring)} fill="none" stroke={ink("line")} />
              ))}
              {shot.plan.light.sun_azimuth_deg !== null && (shot.plan.light.sun_altitude_deg ?? -90) > -0.9 && (
                <g>
                  {(() => {
                    const [x, y] = [
                      cx + Math.sin(radians(shot.plan.light.sun_azimuth_deg)) * reach * 1.04,
                      cy - Math.cos(radians(shot.plan.light.sun_azimuth_deg)) * reach * 1.04,
                    ];
                    return (
                      <>
                        <line x1={x} y1={y} x2={cx} y2={cy} stroke={ink("accent")} strokeDasharray="2 5" />
                        <circle cx={x} cy={y} r={7} fill="none" stroke={ink("accent")} strokeWidth={2} />
                        <text x={x + 12} y={y} dy="0.35em" fontSize="13" fill={ink("accent")}>
                          sun
                        </text>
                      </>
                    );
                  })()}
                </g>
              )}
              {shadows.map((shadow) => {
                const caster = seen.find((item) => item.element.id === shadow.element_id);
                if (!caster) return null;
                return (
                  <g key={shadow.element_id} data-shadow="">
                    <path
                      d={shadowPath(caster.bearing, caster.distance, caster.element.width_m, shadow, point)}
                      fill={ink("night")}
                      stroke={ink("muted")}
                      strokeDasharray="3 2"
                      opacity={0.85}
                    />
                    <title>{`shadow of ${caster.element.name}: ${shadow.label}`}</title>
                  </g>
                );
              })}
              {seen.map(({ element, bearing, distance }) => {
                const arc = Math.atan2(element.width_m / 2, distance);
                const ends = [-arc, arc].map((side) => [
                  cx + Math.sin(radians(bearing) + side) * scale(distance),
                  cy - Math.cos(radians(bearing) + side) * scale(distance),
                ]);
                return (
                  <g key={element.id}>
                    <path
                      d={`M${ends[0]?.join(" ")} A${scale(distance)} ${scale(distance)} 0 0 1 ${ends[1]?.join(" ")}`}
                      fill="none"
                      stroke={element.speed_mps ? ink("haze") : ink("fg")}
                      strokeWidth={element.shape === "water" ? 4 : 6}
                      strokeLinecap="round"
                      strokeDasharray={element.shape === "water" ? "7 6" : undefined}
                    />
                  </g>
                );
              })}
              <Labels wishes={wishes} bounds={{ x: 4, y: 2, width: width - 8, height: height - 5 }} taken={taken} />
              <g transform={`translate(${cx} ${cy})`}>
                <path
                  d="M0 -8 L7 7 L0 3 L-7 7 Z"
                  fill={ink("accent")}
                  transform={`rotate(${(facing * 180) / Math.PI})`}
                />
              </g>
              <g transform={`translate(24 ${height - 34})`}>
                <path d="M0 14 V-12 M-5 -5 L0 -13 L5 -5" fill="none" stroke={ink("muted")} strokeWidth={1.5} />
                <text y={27} fontSize="12" textAnchor="middle" fill={ink("muted")}>
                  N
                </text>
              </g>
              {seen.map(({ element, bearing, distance }) => {
                const [x, y] = point(bearing, distance);
                const save = (to: { bearing: number; distance: number }) =>
                  void edit(element.id, { bearing_deg: to.bearing, distance_m: to.distance }).catch(() =>
                    setMoved(undefined),
                  );
                return (
                  <Handle
                    key={element.id}
                    x={x}
                    y={y}
                    label={`${element.name}, bearing and distance`}
                    value={Math.round(bearing)}
                    range={[0, 360]}
                    valueText={`${Math.round(bearing)}°, ${element.distance_label}`}
                    drag={(toX, toY) => {
                      const to = {
                        bearing: Math.round((((Math.atan2(toX - cx, cy - toY) * 180) / Math.PI + 360) % 360) * 2) / 2,
                        distance: round(scale.invert(Math.hypot(toX - cx, toY - cy))),
                      };
                      setMoved({ id: element.id, ...to });
                      save(to);
                    }}
                    nudge={(right, up) =>
                      save({
                        bearing: (element.bearing_deg + right + 360) % 360,
                        distance: round(element.distance_m * 1.02 ** up),
                      })
                    }
                  >
                    <circle r={6} fill={ink("bg")} stroke={ink("accent")} strokeWidth={2} />
                  </Handle>
                );
              })}
            </g>
          </>
        );
      }}
    </Drawing>
  );
}

/** A shadow's outline on a plan whose distances are not to scale: each of its edges is carried over point by point. */
function shadowPath(
  bearing: number,
  distance: number,
  width: number,
  shadow: Schemas["ShadowOut"],
  point: (bearing: number, distance: number) => [number, number],
): string {
  const [east, north] = [Math.sin(radians(bearing)) * distance, Math.cos(radians(bearing)) * distance];
  const [alongE, alongN] = [Math.sin(radians(shadow.bearing_deg)), Math.cos(radians(shadow.bearing_deg))];
  const edge = (side: number) =>
    Array.from({ length: 13 }, (_, step) => {
      const reach = (shadow.length_m * step) / 12;
      const e = east + alongE * reach + alongN * side;
      const n = north + alongN * reach - alongE * side;
      return point((Math.atan2(e, n) * 180) / Math.PI, Math.hypot(e, n)).join(" ");
    });
  return `M${[...edge(-width / 2), ...edge(width / 2).reverse()].join(" L")} Z`;
}

/** How far one can go from a point in a direction before the edge. */
function room(from: number, direction: number, low: number, high: number): number {
  if (Math.abs(direction) < 1e-6) return Number.POSITIVE_INFINITY;
  return ((direction > 0 ? high : low) - from) / direction;
}

/** Three significant figures: as near as a hand sets a distance. */
const round = (value: number) => Number(value.toPrecision(3));
