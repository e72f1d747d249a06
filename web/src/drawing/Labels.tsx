import { ink } from "../theme/system";
import { type Box, type LabelWish, placeLabels } from "./labels";

export interface NamedWish extends LabelWish {
  id: string | number;
  tone?: string;
}

/** The words of a drawing, placed by one routine. */
export function Labels({
  wishes,
  bounds,
  taken,
  halo = "bg",
}: {
  wishes: NamedWish[];
  bounds: Box;
  taken?: Box[];
  /** What lies behind, so that the words stand out from it. */
  halo?: string;
}) {
  const places = placeLabels(wishes, bounds, taken);
  return (
    <g pointerEvents="none" data-labels="">
      {wishes.map((wish, at) => (
        <text
          key={wish.id}
          x={places[at]?.x.toFixed(1)}
          y={places[at]?.y.toFixed(1)}
          className={wish.mono ? "figure" : undefined}
          fontSize={wish.size}
          textAnchor="middle"
          fill={ink(wish.tone ?? "fg")}
          stroke={ink(halo)}
          strokeWidth={3}
          paintOrder="stroke"
          data-label=""
        >
          {wish.text}
        </text>
      ))}
    </g>
  );
}
