import { ink } from "../theme/system";

interface Shape {
  shape: string;
  distance_m: number;
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
