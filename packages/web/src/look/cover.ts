import type { KelpDocument, Material } from '@kelp/core';
import { Vector3 } from 'three';
import type { Computed } from '../evaluation/evaluation.js';
import { photograph, type Sitter } from './photograph.js';
import { sittersOf } from './sitters.js';

/** Size of a cover, pixels. */
export const COVER = { width: 480, height: 300 } as const;

/** From over the right shoulder, as a project opens. */
const FROM = new Vector3(0.55, 0.42, 1);

/** A small picture of all that is shown, as the bytes of a PNG; null when nothing is. */
export async function drawCover(document: KelpDocument, { builds, meshes }: Computed): Promise<Uint8Array | null> {
  const sitters: Sitter[] = [...builds.values()].flatMap(sittersOf);
  for (const { mesh: hash, placement, visible, colour } of document.props) {
    const mesh = visible ? meshes.get(hash) : undefined;
    const material: Material = { name: 'Prop', colour, roughness: 0.82, metalness: 0 };
    if (mesh) sitters.push({ mesh, material, placement });
  }
  if (sitters.length === 0) return null;
  const url = await photograph(sitters, FROM, COVER.width, COVER.height);
  return Uint8Array.from(atob(url.slice(url.indexOf(',') + 1)), (letter) => letter.charCodeAt(0));
}
