import { type Bounds, boundsOf, type KelpDocument, type Material, type Mesh } from '@kelp/core';
import { Vector3 } from 'three';
import type { Computed } from '../evaluation/evaluation.js';
import { fitting, type Weighed } from '../view/budget.js';
import { photograph, type Sitter } from './photograph.js';
import { sittersOf } from './sitters.js';

/** Size of a cover, pixels. */
export const COVER = { width: 480, height: 300 } as const;

/** From over the right shoulder, as a project opens. */
const FROM = new Vector3(0.55, 0.42, 1);

/** More triangles than these do not show in it, and handing them over would hold the page up. */
const MAX_TRIANGLES = 300_000;
const MAX_PER_COAT = 50_000;
/** All is about equally far from here, metres. */
const AFAR = [5500, 4200, 10_000] as const;

/** Something of the project as it may come into the picture. */
interface Shown extends Weighed {
  sitters(): Sitter[];
}

/** A small picture of what is shown, the largest things of a large project, as the bytes of a PNG; null when nothing is. */
export async function drawCover(document: KelpDocument, { builds, meshes }: Computed): Promise<Uint8Array | null> {
  const shown: Shown[] = [];
  for (const build of builds.values()) {
    const { bounds, measures, parts } = build;
    // of a coat fewer strands, each this much wider, look the same from there
    const most = parts.some(({ kind }) => kind === 'strands') ? MAX_PER_COAT : MAX_TRIANGLES;
    if (bounds)
      shown.push({
        box: [...bounds.min, ...bounds.max],
        triangles: Math.min(most, measures.triangles),
        sitters: () => sittersOf(build, most),
      });
  }
  const boxes = new Map<Mesh, Bounds>();
  for (const { mesh: hash, placement, visible, colour } of document.props) {
    const mesh = visible ? meshes.get(hash) : undefined;
    if (!mesh) continue;
    const { min, max } = boxes.get(mesh) ?? boundsOf(mesh.position);
    boxes.set(mesh, { min, max });
    const material: Material = { name: 'Prop', colour, roughness: 0.82, metalness: 0 };
    // only its size counts from so far away, and it is handed over once for all that look like it
    const box = [...min, ...max].map((value) => value * placement.scale);
    shown.push({ box, triangles: 0, sitters: () => [{ mesh, material, placement }] });
  }
  const kept = fitting(shown, AFAR, MAX_TRIANGLES);
  const sitters = shown.filter((_, i) => kept[i] === 1).flatMap((one) => one.sitters());
  if (sitters.length === 0) return null;
  const url = await photograph(sitters, FROM, COVER.width, COVER.height);
  return Uint8Array.from(atob(url.slice(url.indexOf(',') + 1)), (letter) => letter.charCodeAt(0));
}
