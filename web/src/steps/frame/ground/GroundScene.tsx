import { memo } from "react";
import type { Shot } from "../../../shots/useShot";
import { ink } from "../../../theme/system";
import { onGround, type Shift, shifted, silhouette } from "../finder/scene";
import { groundScales } from "./groundScales";
import { StandingArea } from "./StandingArea";

/** The scene's solids from above: what lies on the ground, where one can stand, shadows, and what stands there. They stay while the camera is moved. */
export const GroundScene = memo(function GroundScene({
  shot,
  width,
  height,
  reach,
  shift,
}: {
  shot: Shot;
  width: number;
  height: number;
  reach: number;
  shift: Shift | undefined;
}) {
  const { plan } = shot;
  const { x, y } = groundScales(width, height, reach);
  const flatPath = (points: readonly (readonly number[])[]) =>
    `M${points.map((point) => `${x(point[0] ?? 0).toFixed(1)} ${y(point[1] ?? 0).toFixed(1)}`).join("L")}Z`;
  return (
    <>
      {plan.frame.elements
        .filter((item) => onGround(item.shape))
        .map((item) => (
          <path
            key={item.id}
            d={item.meshes
              .map((mesh) => flatPath(shifted(mesh.points, shift?.id === item.id ? shift : undefined)))
              .join("")}
            fill={ink(item.shape === "water" || item.shape === "stream" ? "water" : "far")}
            fillOpacity={0.8}
          />
        ))}
      <StandingArea shot={shot} x={x} y={y} />
      {plan.frame.elements.map((item) =>
        item.shadow ? <path key={item.id} d={flatPath(item.shadow)} fill={ink("shade")} fillOpacity={0.4} /> : null,
      )}
      {plan.frame.elements
        .filter((item) => !onGround(item.shape) && item.distance_m < reach * 4)
        .map((item) => (
          <path
            key={item.id}
            d={silhouette(
              item.meshes.flatMap((mesh) => {
                const points = shifted(mesh.points, shift?.id === item.id ? shift : undefined).map(
                  (point): [number, number] => [x(point[0] ?? 0), y(point[1] ?? 0)],
                );
                return mesh.faces.map((face) => face.flatMap((corner) => (points[corner] ? [points[corner]] : [])));
              }),
            )}
            fill={ink("middle")}
            stroke={ink("middle")}
            strokeWidth={1.5}
          />
        ))}
    </>
  );
});
