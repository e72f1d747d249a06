import { useEffect, useState } from "react";
import { type Matrix, place } from "../../../drawing/projective";
import type { Shot } from "../../../shots/useShot";

/** A photograph behind the scene, placed by the directions of its corners. */
export function BackdropImage({
  backdrop,
  matrix,
  px,
  py,
}: {
  backdrop: NonNullable<Shot["backdrop"]>;
  matrix: Matrix;
  px: (u: number) => number;
  py: (v: number) => number;
}) {
  const [picture, setPicture] = useState<string>();
  useEffect(() => {
    let here = true;
    void fetch(backdrop.url)
      .then((answer) => answer.blob())
      .then((blob) => {
        // As data it is saved along with the drawing.
        const reader = new FileReader();
        reader.onload = () => here && setPicture(String(reader.result));
        reader.readAsDataURL(blob);
      })
      .catch(() => undefined);
    return () => {
      here = false;
    };
  }, [backdrop.url]);
  const corners = backdrop.corners.map((corner) => place(matrix, corner));
  if (!picture || corners.some((corner) => corner[2] <= 0)) return null;
  const at = corners.map(([u, v, depth]) => [px(u / depth), py(v / depth)] as const);
  const [a, b, , d] = at as [readonly [number, number], readonly [number, number], unknown, readonly [number, number]];
  return (
    <image
      data-backdrop=""
      href={picture}
      width={1}
      height={1}
      preserveAspectRatio="none"
      opacity={backdrop.opacity}
      transform={`matrix(${b[0] - a[0]} ${b[1] - a[1]} ${d[0] - a[0]} ${d[1] - a[1]} ${a[0]} ${a[1]})`}
    />
  );
}
