import { pointCount } from '../../curve/curve-set.js';
import { hasLevelSets } from '../../mesh/level-set.js';
import type { MeshPart } from '../../unit/carriers.js';
import type { BuildContext } from '../../unit/unit.js';
import type { Limbs } from '../limbs.js';
import { mergedSkin, planSkin, skinWords } from './skin.js';

/** How fine one skin is to be, in the terms of who asks: its parameter `cell` counts in `unit` metres. */
export interface SkinSize {
  cell: number;
  /** Width of the fillets where limbs meet, in the same. */
  blend: number;
  unit: number;
}

/** Whether skins can be merged here; where what does it could not be loaded, each limb keeps its own. */
export function canMerge({ report }: BuildContext): boolean {
  if (hasLevelSets()) return true;
  report({
    code: 'no-merging',
    severity: 'error',
    message:
      'Surfaces could not be merged: the module for it did not load. Separate surfaces are used; check the connection and reload the page.',
  });
  return false;
}

/** All limbs as one part with one skin, as fine as there is memory for; what it comes to is reported before. */
export function mergedPart(limbs: Limbs, { cell, blend, unit }: SkinSize, context: BuildContext): MeshPart[] {
  if (pointCount(limbs.curves) === 0) return [];
  const wanted = (cell * unit) / context.density;
  context.step(0, skinWords(limbs, wanted));
  const plan = planSkin(limbs, blend * unit, wanted);
  if (plan.cell > wanted)
    context.report({
      code: 'cell-fine',
      severity: 'warning',
      message: `The cells need too much memory: made ${(plan.cell / wanted).toFixed(1)} times as coarse. Increase the cell size, or use fewer or thicker strands.`,
      size: { value: wanted, limit: plan.cell, kind: 'length' },
      fix: {
        label: 'Set this cell size',
        kind: 'set',
        stage: 'make',
        parameter: 'cell',
        value: Math.min(20, (plan.cell * context.density) / unit),
      },
    });
  const mesh = mergedSkin(limbs, plan, context);
  return mesh.index.length > 0 ? [{ kind: 'mesh', id: 'skin', name: 'Surface', slot: 'main', mesh }] : [];
}
