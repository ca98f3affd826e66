import type { Finding } from '@kelp/core';
import { expect, it } from 'vitest';
import { fairly } from '../src/evaluation/fairly.js';

const found = (code: string, value: number, limit: number): Finding => ({
  code,
  severity: 'error',
  message: code,
  size: { value, limit, kind: 'length' },
});

it('a draft reports no tight bends and no facets that only it has, and all else', () => {
  const cut = found('cuts-prop', 0.01, 0.001);
  const bends = [0.02, 0.01, 0.03].map((value) => found('pinch', value, 0.04));
  // at half the density the whole turns half as far from ring to ring
  const facets = [found('coarse', 0.5, 0.4), found('coarse', 0.9, 0.4)];
  const build = { findings: [cut, ...bends, ...facets] };
  expect(fairly(build, 1)).toBe(build);
  expect(fairly(build, 0.5, 1).findings).toEqual([cut, bends[1], facets[1]]);
  expect(fairly(build, 0.5, 0).findings).toEqual([cut, facets[1]]);
  // never made whole: what it finds is all there is to know
  expect(fairly(build, 0.5).findings).toEqual([cut, ...bends, facets[1]]);
});
