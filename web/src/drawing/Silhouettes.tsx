import { ink } from "../theme/system";

interface Shape {
  shape: string;
  distance_m: number;
  polygons: number[][][];
}

/** Near things dark or bright, far ones closer to the sky: distance alone, no colour. */
export function toneOf(shape: Shape): string {
  if (shape.shape === "water" || shape.shape === "stream") return ink("water");
  if (shape.shape === "path") return ink("far");
  if (shape.shape === "shoreline") return ink("middle");
  if (shape.distance_m > 600) {
    // Each ridge is paler than the one before it.
    const share = Math.round(100 * Math.max(0.25, 1 - Math.log10(shape.distance_m / 600) / 2.2));
    return `color-mix(in srgb, ${ink("far")} ${share}%, ${ink("sky")})`;
  }
  return shape.distance_m > 20 ? ink("middle") : ink("near");
}

/** Polygons in 0..1 of the frame as an SVG path in the drawing's units. */
export function outlinePath(polygons: number[][][], left: number, top: number, width: number, height: number): string {
  return polygons
    .map(
      (polygon) =>
        `M${polygon.map(([x = 0, y = 0]) => `${(left + x * width).toFixed(1)} ${(top + y * height).toFixed(1)}`).join(" L")} Z`,
    )
    .join(" ");
}

/** The ground below a horizon given as points in 0..1. */
export function groundPath(horizon: number[][], left: number, top: number, width: number, height: number): string {
  if (horizon.length < 2) return "";
  const points = horizon.map(([x = 0, y = 0]) => `${(left + x * width).toFixed(1)} ${(top + y * height).toFixed(1)}`);
  const low = top + height * 3;
  return `M${left + (horizon[0]?.[0] ?? 0) * width} ${low} L${points.join(" L")} L${left + (horizon.at(-1)?.[0] ?? 1) * width} ${low} Z`;
}
