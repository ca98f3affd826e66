import { joinCurves } from '../curve/carry.js';
import { catmullRom } from '../curve/catmull-rom.js';
import { type CurveSet, curveCount } from '../curve/curve-set.js';
import { resample } from '../curve/resample.js';
import { defineUnit } from '../unit/unit.js';
import { MIN_TURN, noCurves } from './trace.js';

export const imported = defineUnit({
  stage: 'path',
  id: 'imported',
  label: 'Imported',
  purpose: 'Curves from a file, at a chosen position and size.',
  synonyms: ['file', 'svg', 'csv', 'curves'],
  parameters: {
    curves: { kind: 'curves', label: 'Curves', help: 'Curves that came with the file.', default: [] },
    at: {
      kind: 'point',
      gauge: 'place',
      grip: { kind: 'place' },
      label: 'Position',
      help: 'Position of the file’s origin.',
      default: [0, 0, 0],
    },
    lay: {
      kind: 'choice',
      label: 'Orientation',
      help: 'As imported keeps the orientation; Flat lays drawings on the ground.',
      default: 'standing',
      options: [
        { value: 'standing', label: 'As imported' },
        { value: 'flat', label: 'Flat' },
      ],
    },
    turn: {
      gauge: 'about-axis',
      kind: 'angle',
      label: 'Rotation',
      help: 'Rotates all curves around the vertical.',
      default: 0,
      min: -1000,
      max: 1000,
      comfortable: [-Math.PI, Math.PI],
    },
    size: {
      gauge: 'figure',
      kind: 'ratio',
      of: 'size in the file',
      label: 'Scale',
      help: 'Scales all curves from the file’s origin.',
      default: 1,
      min: 1e-6,
      max: 1e6,
      comfortable: [0.1, 10],
    },
  },
  presets: [
    { id: 'standing', label: 'As imported', parameters: {} },
    { id: 'flat', label: 'Laid flat', parameters: { lay: 'flat' } },
  ],
  describe: ({ curves, size }) =>
    `${curves.length} ${curves.length === 1 ? 'curve' : 'curves'}${size === 1 ? '' : `, × ${+size.toPrecision(3)}`}`,
  build(_input, { curves, at, lay, turn, size }, context) {
    const sets: CurveSet[] = [];
    let missing = 0;
    for (const id of curves) {
      const points = context.curves.get(id);
      const fine = points && catmullRom(points);
      if (fine && curveCount(fine) > 0) sets.push(fine);
      else missing++;
    }
    if (missing > 0 || curves.length === 0)
      context.report({
        code: 'curve-missing',
        severity: sets.length === 0 ? 'error' : 'warning',
        message:
          curves.length === 0
            ? 'No curves are imported. Import a file with curves.'
            : `${missing} of ${curves.length} imported curves are missing or have no length. Import the file again.`,
      });
    if (sets.length === 0) return noCurves();
    const all = joinCurves(sets);
    const [cos, sin] = [Math.cos(turn), Math.sin(turn)];
    for (let i = 0; i < all.position.length; i += 3) {
      const x = size * all.position[i];
      const up = size * all.position[i + 1];
      const out = size * all.position[i + 2];
      // flat: the sheet's upper edge points away from the viewer
      const [y, z] = lay === 'flat' ? [out, -up] : [up, out];
      all.position[i] = at[0] + cos * x + sin * z;
      all.position[i + 1] = at[1] + y;
      all.position[i + 2] = at[2] + cos * z - sin * x;
    }
    return resample(all, { maxTurn: MIN_TURN, keepKnots: true });
  },
});
