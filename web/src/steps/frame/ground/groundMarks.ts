import type { Schemas } from "../../../api/client";
import { radians } from "../../../drawing/bearings";
import type { Shot } from "../../../shots/useShot";
import { onGround, type Seen, type Shift } from "../finder/scene";
import type { CameraWork } from "../finder/useCamera";

export interface GroundMark {
  item: Seen;
  element: Schemas["ElementOut"];
  /** From the viewpoint's mark [m]. */
  east: number;
  north: number;
  inside: boolean;
  /** Where the way to it leaves the plan. */
  to: [number, number] | undefined;
}

/** What is marked on the plan, and where; what lies beyond it is marked where the way to it leaves. */
export function groundMarks(
  { plan, place }: Shot,
  pose: CameraWork["pose"],
  shift: Shift | undefined,
  {
    x,
    y,
    width,
    height,
  }: { x: (metres: number) => number; y: (metres: number) => number; width: number; height: number },
): GroundMark[] {
  const isNear = (item: Seen) =>
    item.meshes.some((mesh) =>
      mesh.points.some(
        (p) => Math.abs(x(p[0] ?? 0) - width / 2) < width / 2 && Math.abs(y(p[1] ?? 0) - height / 2) < height / 2,
      ),
    );
  return (place?.viewpoint.elements ?? []).flatMap((element): GroundMark[] => {
    const item = plan.frame.elements.find((other) => other.id === element.id);
    if (!item || onGround(element.shape)) return [];
    const mine = shift?.id === element.id ? shift : undefined;
    const east = Math.sin(radians(element.bearing_deg)) * element.distance_m + (mine?.east ?? 0);
    const north = Math.cos(radians(element.bearing_deg)) * element.distance_m + (mine?.north ?? 0);
    const inside = Math.abs(x(east) - width / 2) < width / 2 - 4 && Math.abs(y(north) - height / 2) < height / 2 - 4;
    if (inside || isNear(item)) return [{ item, element, east, north, inside, to: undefined }];
    // What lies beyond is named where the way to it leaves the plan.
    const way = Math.atan2(east - pose.east, north - pose.north);
    const along = Math.max(
      30,
      Math.min(
        Math.abs((way > 0 ? width - x(pose.east) - 8 : x(pose.east) - 8) / Math.sin(way)),
        Math.abs((Math.cos(way) > 0 ? y(pose.north) - 16 : height - y(pose.north) - 8) / Math.cos(way)),
      ),
    );
    const to: [number, number] = [x(pose.east) + Math.sin(way) * along, y(pose.north) - Math.cos(way) * along];
    return [{ item, element, east, north, inside, to }];
  });
}
