import { curveCount, POINT } from '../curve/curve-set.js';
import { resample } from '../curve/resample.js';
import { reverseCurves } from '../curve/reverse.js';
import { defineUnit } from '../unit/unit.js';
import { FINEST_TURN, noCurves } from './trace.js';

export const carried = defineUnit({
  stage: 'path',
  id: 'carried',
  label: 'Carried',
  purpose: 'Runs along the finished line of another piece.',
  sample: { parameters: { piece: 'other' } },
  parameters: {
    piece: { kind: 'piece', label: 'Source piece', help: 'Piece whose line this one runs along.', default: '' },
    reversed: { kind: 'toggle', label: 'Reverse', help: 'Run from the end to the start.', default: false },
  },
  presets: [{ id: 'carried', label: 'Carried', parameters: {} }],
  describe: ({ piece }) => (piece ? 'Along another piece' : 'Along no piece yet'),
  build(_input, { piece, reversed }, context) {
    const line = piece ? context.piece(piece)?.line : undefined;
    if (!line || curveCount(line) === 0) {
      context.report({
        code: 'carrier-missing',
        severity: 'error',
        message: piece
          ? 'The piece to run along is gone, has no line, or runs along this one itself. Choose another one.'
          : 'Choose the piece to run along.',
      });
      return noCurves();
    }
    const along = resample(reversed ? reverseCurves(line) : line, { maxTurn: FINEST_TURN, keepKnots: true });
    // the drawn points belong to the other piece: findings here must not offer to change them
    along.pointData[POINT.source]?.fill(-1);
    return along;
  },
});
