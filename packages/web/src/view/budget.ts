import type { Camera, PerspectiveCamera, WebGLRenderer } from 'three';

/** Something that may be left out of a picture: how much it is, and where. */
export interface Weighed {
  /** World box: least xyz, greatest xyz. */
  box: readonly number[];
  triangles: number;
  /** It is in hand: it is drawn however much it is, and takes no room from the others. */
  inHand?: boolean;
}

/** Times that a picture may take, milliseconds: while the view moves, and once it stands still. */
const MOVING = 60;
const STILL = 600;
/** What is always drawn, triangles: less says nothing. */
const MIN_TRIANGLES = { moving: 60_000, still: 250_000 };
/** What a machine is taken to draw a millisecond until a picture was timed. */
const FIRST_RATE = 400;

/** How large a box looks: its size over its distance from the eye. */
export function apparentSize({ box }: Weighed, eye: readonly [number, number, number]): number {
  let away = 0;
  let size = 0;
  for (let k = 0; k < 3; k++) {
    const outside = Math.max(box[k] - eye[k], 0, eye[k] - box[3 + k]);
    away += outside * outside;
    size += (box[3 + k] - box[k]) ** 2;
  }
  return Math.sqrt(size) / Math.max(Math.sqrt(away), 1e-6);
}

/**
 * Which things fit into a budget, the largest-looking first; the first always does, and what is in hand beside all others. What is kept is said by the place in
 * `things`.
 */
export function fitting(
  things: readonly Weighed[],
  eye: readonly [number, number, number],
  triangles: number,
): Uint8Array {
  const kept = new Uint8Array(things.length);
  const total = things.reduce((sum, thing) => sum + thing.triangles, 0);
  if (total <= triangles) return kept.fill(1);
  const size = Float64Array.from(things, (thing) => apparentSize(thing, eye));
  const order = Uint32Array.from(things.keys()).sort((a, b) => size[b] - size[a]);
  let left = triangles;
  for (const i of order) {
    if (things[i].inHand) kept[i] = 1;
    if (kept[i] || (things[i].triangles > left && left < triangles)) continue;
    left -= things[i].triangles;
    kept[i] = 1;
  }
  return kept;
}

/** Learns how fast this machine draws, without ever waiting for it. */
export class DrawingSpeed {
  private rate = FIRST_RATE;
  private pending: { sync: WebGLSync; started: number; triangles: number } | undefined;

  budget(moving: boolean): number {
    return moving
      ? Math.max(MIN_TRIANGLES.moving, this.rate * MOVING)
      : Math.max(MIN_TRIANGLES.still, this.rate * STILL);
  }

  /** A picture was just handed to the renderer. */
  drawn(gl: WebGLRenderer, triangles: number): void {
    const context = gl.getContext() as WebGL2RenderingContext;
    if (this.pending || triangles < 1000) return;
    const sync = context.fenceSync?.(context.SYNC_GPU_COMMANDS_COMPLETE, 0);
    if (!sync) return;
    context.flush();
    this.pending = { sync, started: performance.now(), triangles };
    this.look(context);
  }

  private look(context: WebGL2RenderingContext): void {
    const { pending } = this;
    if (!pending) return;
    const state = context.clientWaitSync(pending.sync, 0, 0);
    if (state === context.TIMEOUT_EXPIRED) {
      setTimeout(() => this.look(context), 12);
      return;
    }
    context.deleteSync(pending.sync);
    this.pending = undefined;
    if (state === context.WAIT_FAILED) return;
    const ms = Math.max(1, performance.now() - pending.started);
    this.rate += 0.5 * (pending.triangles / ms - this.rate);
  }
}

export const eyeOf = (camera: Camera): [number, number, number] => (camera as PerspectiveCamera).position.toArray();
