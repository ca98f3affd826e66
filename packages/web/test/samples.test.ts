import { STAGES, unitsOf } from '@kelp/core';
import { expect, it } from 'vitest';
import { keptPicture } from '../src/look/kept-pictures.js';
import { sampleOf } from '../src/look/samples.js';

it('every unit has a sample on which its work is to be seen', async () => {
  for (const stage of STAGES)
    for (const { id } of unitsOf(stage)) {
      const sitters = await sampleOf(stage, id);
      const made = sitters.at(-1);
      expect(made?.mesh.index.length, id).toBeGreaterThan(100);
      // a shape leaves its mark: the line as it was, and as it became
      if (stage !== 'shape') continue;
      const boxes = sitters
        .slice(-2)
        .map(({ mesh }) => [Math.max(...mesh.position.filter((_, i) => i % 3 === 1)), mesh.position.length].join());
      expect(new Set(boxes).size, id).toBe(2);
    }
});

it('a picture of every preset comes with the build (npm run pictures)', () => {
  for (const { id, presets } of unitsOf('make'))
    for (const preset of presets) expect(keptPicture(id, preset.id), `${id} ${preset.id}`).toMatch(/\.png/);
});
