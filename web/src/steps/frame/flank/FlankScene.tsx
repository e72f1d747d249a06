import { ink } from "../../../theme/system";
import { onGround, type Seen, type Shift, shifted, silhouette } from "../finder/scene";

type Place = (metres: number) => number;

/** What is near, from the side: on the ground as lines, standing as silhouettes with the sight lines over them. */
export function FlankScene({
  items,
  along,
  x,
  y,
  eye,
  edge,
  back,
  shift,
}: {
  items: Seen[];
  /** How far ahead of the camera a point lies [m]. */
  along: (point: readonly number[]) => number;
  x: Place;
  y: Place;
  /** The height of the lens. */
  eye: number;
  /** How far the drawing reaches ahead and back [m]. */
  edge: number;
  back: number;
  shift: Shift | undefined;
}) {
  const of = (item: Seen) => (shift?.id === item.id ? shift : undefined);
  return (
    <>
      {items
        .filter((item) => onGround(item.shape))
        .map((item) => {
          const reachAlong = item.meshes.flatMap((mesh) => mesh.points.map(along));
          const level = item.meshes[0]?.points[0]?.[2] ?? 0;
          const [from, to] = [Math.max(-back, Math.min(...reachAlong)), Math.min(edge, Math.max(...reachAlong))];
          return (
            <line
              key={item.id}
              x1={x(from)}
              x2={x(to)}
              y1={y(level)}
              y2={y(level)}
              stroke={ink(item.shape === "path" ? "muted" : "haze")}
              strokeWidth={2}
            >
              <title>{item.name}</title>
            </line>
          );
        })}
      {items
        .filter((item) => !onGround(item.shape))
        .map((item) => {
          const faces = item.meshes.flatMap((mesh) => {
            const points = shifted(mesh.points, of(item)).map((point): [number, number] => [
              x(along(point)),
              y(point[2] ?? 0),
            ]);
            return mesh.faces.map((face) => face.flatMap((corner) => (points[corner] ? [points[corner]] : [])));
          });
          const heights = item.meshes.flatMap((mesh) => mesh.points.map((point) => point[2] ?? 0));
          const top = Math.max(...heights);
          const where = along(
            item.meshes.flatMap((mesh) => shifted(mesh.points, of(item))).find((point) => point[2] === top) ?? [],
          );
          const behind = where > 0.001 ? eye + ((top - eye) * edge) / where : null;
          return (
            <g key={item.id}>
              {behind !== null && where < edge && (
                <line
                  x1={x(0)}
                  y1={y(eye)}
                  x2={x(edge)}
                  y2={y(behind)}
                  stroke={ink("muted")}
                  strokeDasharray="2 5"
                  data-sight=""
                />
              )}
              <path d={silhouette(faces)} fill={ink("middle")} stroke={ink("middle")} strokeWidth={0.6} />
            </g>
          );
        })}
    </>
  );
}

export interface Support {
  height_min_m: number;
  height_max_m: number;
  inverted_min_m: number | null;
}

/** The heights that a tripod reaches, beside it. y: of a height above the ground. */
export function SupportReach({ support, x, y }: { support: Support; x: number; y: Place }) {
  return (
    <g data-support="" stroke={ink("haze")} strokeWidth={2} fill="none">
      <path
        d={`M${x - 22} ${y(support.height_max_m)}h8M${x - 18} ${y(support.height_max_m)}V${y(support.height_min_m)}M${x - 22} ${y(support.height_min_m)}h8`}
      />
      {support.inverted_min_m !== null && (
        <path
          d={`M${x - 18} ${y(support.height_min_m)}V${y(support.inverted_min_m)}M${x - 22} ${y(support.inverted_min_m)}h8`}
          strokeDasharray="3 3"
        />
      )}
      <title>what the tripod reaches; dashed with its column inverted</title>
    </g>
  );
}
