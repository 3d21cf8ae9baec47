/** A spot of a picture, from its left and its top, 0 to 1. */
export interface Place {
  x: number;
  y: number;
}

/** Width over height of every picture of a state. */
export const SHAPE = 1.6;

const STEP = 0.01;
const STRIDE = 0.08;

const WAYS: Partial<Record<string, [number, number]>> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};

/** Where an arrow key takes it; never outside the picture, as far up as across. */
export function moved(from: Place, key: string, far: boolean): Place | undefined {
  const way = WAYS[key];
  if (!way) return undefined;
  const by = far ? STRIDE : STEP;
  const inside = (v: number) => Math.min(1, Math.max(0, v));
  return { x: inside(from.x + way[0] * by), y: inside(from.y + way[1] * by * SHAPE) };
}

/** The width of the largest picture that fits. */
export const within = (room: { width: number; height: number }): number =>
  Math.max(0, Math.min(room.width, room.height * SHAPE));
