import type { Matrix4, Vector3 } from "three";
import { NEAREST } from "../drawing/projective";

interface Round {
  ball: { middle: Vector3; radius: number };
}

/**
 * Shares out the depth buffer among things that are drawn one before another, the farthest first: each has a slice of its own, nearer than all before
 * it, so that nothing has to be wiped between two of them, and is resolved as finely as its own extent allows.
 */
export class Slices {
  private taken = 0;

  constructor(private readonly count: number) {}

  /** The matrix to the canvas with the depth of what is drawn next in the next slice. */
  next(parts: readonly Round[], clip: Matrix4): Matrix4 {
    const at = this.taken;
    this.taken += 1;
    const { elements } = clip;
    const [a = 0, b = 0, c = 0, d = 0] = [elements[3], elements[7], elements[11], elements[15]];
    const slope = Math.hypot(a, b, c);
    let near = Number.POSITIVE_INFINITY;
    let far = 0;
    for (const { ball } of parts) {
      const middle = a * ball.middle.x + b * ball.middle.y + c * ball.middle.z + d;
      near = Math.min(near, middle - slope * ball.radius);
      far = Math.max(far, middle + slope * ball.radius);
    }
    near = Math.max(NEAREST, near * (1 - MARGIN));
    far = Math.max(near * (1 + MARGIN), far * (1 + MARGIN));
    // Depth on the canvas is straight in one over the distance; 1 is the farthest, -1 the nearest.
    const [back, front] = [1 - (2 * at) / this.count, 1 - (2 * (at + 1)) / this.count];
    const steep = (back - front) / (1 / far - 1 / near);
    const level = back - steep / far;
    const made = clip.clone();
    [3, 7, 11, 15].forEach((place, column) => {
      made.elements[place - 1] = level * (elements[place] ?? 0) + (column === 3 ? steep : 0);
    });
    return made;
  }
}

const MARGIN = 1e-3;
