import { type AnchorPick, newUse } from '@kelp/core';
import type { Farm } from './farm.js';
import { HOUSE, LAMP_POSTS, PIER } from './props/places.js';

/** Three thin cables from post to post and on to the gable, blown a little; one of them is broken. */
export function lampCables(farm: Farm): void {
  const place = (id: string, prop: string, x: number, z: number): AnchorPick => {
    const { position, anchor } = farm.on(prop, x, z);
    return { on: 'place', id, position, anchor };
  };
  const posts = LAMP_POSTS.map(([x, , z], k) => place(`post-${k + 1}`, 'lamp-posts', x, z)).reverse();
  const { position, anchor } = farm.near('winch-house', [HOUSE.right + 0.2, PIER.deck + 1.45, -0.8]);
  const gable: AnchorPick = { on: 'place', id: 'gable', position, anchor };
  const path = newUse('path', 'strung');
  Object.assign(path.parameters, {
    anchors: [...posts, gable],
    strands: 3,
    spread: 0.03,
    standoff: 0.045,
    slack: { least: 0.012, most: 0.05 },
    broken: 0.2,
    longestDrop: 0.9,
    lean: 0.12,
    wind: [0, 0, -1],
    seed: 6,
  });
  farm.along(
    'Lamp cables',
    path,
    [],
    { radius: 0.004, sides: 5, leastBend: 1, bendStep: 0.22, cuts: 4 },
    { colour: '#2b3a37', roughness: 0.5 },
  );
}
