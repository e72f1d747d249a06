import type { Schemas } from "../api/client";
import { ink } from "../theme/system";
import { toneOf } from "./Silhouettes";

/** A small finder drawing. */
export function Miniature({
  miniature,
  name,
  height,
}: {
  miniature: Schemas["MiniatureOut"] | null;
  name: string;
  height: number;
}) {
  const aspect = miniature?.aspect ?? 1.5;
  const width = height * aspect;
  const id = `miniature-${name.replace(/\W+/g, "-")}`;
  return (
    <svg
      width={width}
      height={height}
      viewBox={`0 0 ${width} ${height}`}
      role="img"
      aria-label={`Finder of ${name}`}
      style={{ display: "block" }}
    >
      <defs>
        <clipPath id={id}>
          <rect width={width} height={height} />
        </clipPath>
      </defs>
      <rect width={width} height={height} fill={ink("sky")} />
      {miniature?.picture ? (
        // The picture lies on its white and darkens it: red alone at night.
        <g data-in-tones="">
          <rect width={width} height={height} fill={ink("tonal")} />
          <image
            href={miniature.picture}
            width={width}
            height={height}
            preserveAspectRatio="none"
            style={{ mixBlendMode: "multiply" }}
          />
        </g>
      ) : (
        <Plain miniature={miniature} width={width} height={height} id={id} />
      )}
      <rect x={0.5} y={0.5} width={width - 1} height={height - 1} fill="none" stroke={ink("edge")} />
    </svg>
  );
}

/** Where there is no light yet: the outlines alone. */
function Plain({
  miniature,
  width,
  height,
  id,
}: {
  miniature: Schemas["MiniatureOut"] | null;
  width: number;
  height: number;
  id: string;
}) {
  return (
    <g clipPath={`url(#${id})`}>
      <g transform={`scale(${width} ${height})`}>
        {miniature && <path d={miniature.ground} fill={ink("low")} />}
        {miniature?.shapes.map((shape) => (
          <path
            key={`${shape.shape}-${shape.distance_m}-${shape.outline.slice(0, 24)}`}
            d={shape.outline}
            fill={toneOf(shape)}
            stroke={ink("bg")}
            strokeWidth={0.5}
            vectorEffect="non-scaling-stroke"
          />
        ))}
      </g>
    </g>
  );
}
