import type { Material, Mesh, Placement } from '@kelp/core';
import { Vector3 } from 'three';
import type { Standpoint } from './standpoint.js';

export interface Sitter {
  mesh: Mesh;
  material: Material;
  /** Where it is, if not as it is. */
  placement?: Placement;
}

type Triple = [number, number, number];

/** What the darkroom is asked for. */
export interface PictureOrder {
  id: number;
  sitters: Sitter[];
  /** A direction to look against, so that all is just seen; or where to stand. */
  from: Triple | { eye: Triple; at: Triple };
  width: number;
  height: number;
}

export type PictureAnswer = { id: number; url: string } | { id: number; problem: string };

interface Waiting {
  resolve(url: string): void;
  reject(error: Error): void;
}

const NO_UV = new Float32Array(0);

const waiting = new Map<number, Waiting>();
let darkroom: Worker | undefined;
let orders = 0;

/**
 * A picture as a data URL of a PNG, see-through where nothing is. Drawn in a worker with a renderer of its own: neither
 * the page nor its view waits for it.
 * @param from a direction to look against, so that all of them is just seen; or a standpoint
 * @throws Error where the browser has no WebGL to give
 */
export function photograph(
  sitters: readonly Sitter[],
  from: Vector3 | Standpoint,
  width: number,
  height: number,
): Promise<string> {
  darkroom ??= openDarkroom();
  const order: PictureOrder = {
    id: orders++,
    // nothing here has a texture
    sitters: sitters.map((sitter) => ({ ...sitter, mesh: { ...sitter.mesh, uv: NO_UV } })),
    from: from instanceof Vector3 ? from.toArray() : { eye: from.eye.toArray(), at: from.at.toArray() },
    width,
    height,
  };
  darkroom.postMessage(order);
  return new Promise((resolve, reject) => waiting.set(order.id, { resolve, reject }));
}

function openDarkroom(): Worker {
  const worker = new Worker(new URL('./darkroom.worker.ts', import.meta.url), {
    type: 'module',
    name: 'kelp-darkroom',
  });
  worker.onmessage = ({ data }: MessageEvent<PictureAnswer>) => {
    const order = waiting.get(data.id);
    waiting.delete(data.id);
    if ('url' in data) order?.resolve(data.url);
    else order?.reject(new Error(data.problem));
  };
  worker.onerror = ({ message }) => {
    for (const { reject } of waiting.values()) reject(new Error(message || 'Images cannot be drawn'));
    waiting.clear();
  };
  return worker;
}
