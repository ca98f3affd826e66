import { curveCount, POINT } from '../curve/curve-set.js';
import { resample } from '../curve/resample.js';
import { reverseCurves } from '../curve/reverse.js';
import { defineUnit } from '../unit/unit.js';
import { MIN_TURN, noCurves } from './trace.js';

export const carried = defineUnit({
  stage: 'path',
  id: 'carried',
  label: 'Carried',
  purpose: 'Runs along the finished line of another piece.',
  synonyms: ['follow', 'copy', 'attach', 'along another piece'],
  sample: { parameters: { piece: 'other' } },
  parameters: {
    piece: { kind: 'piece', label: 'Source piece', help: 'Piece whose line this one runs along.', default: '' },
    reversed: { kind: 'toggle', label: 'Reverse', help: 'Run from the end to the start.', default: false },
  },
  presets: [{ id: 'carried', label: 'Carried', parameters: {} }],
  describe: ({ piece }) => (piece ? 'Along another piece' : 'No piece chosen'),
  build(_input, { piece, reversed }, context) {
    const line = piece ? context.piece(piece)?.line : undefined;
    if (!line || curveCount(line) === 0) {
      context.report({
        code: 'carrier-missing',
        severity: 'error',
        message: piece
          ? 'The piece to follow is missing, has no line, or follows this one. Choose another one.'
          : 'No piece is chosen. Pick the piece to follow.',
      });
      return noCurves();
    }
    const along = resample(reversed ? reverseCurves(line) : line, { maxTurn: MIN_TURN, keepKnots: true });
    // the drawn points belong to the other piece: findings here must not offer to change them
    along.pointData[POINT.source]?.fill(-1);
    return along;
  },
});
