import type { Piece } from '@kelp/core';
import { useAppDispatch } from '../app/store.js';
import { NumberField } from '../fields/NumberField.js';
import { editPieces, wordsFor } from '../manifest/piece-edits.js';
import { gestureEnded } from '../state/project-slice.js';

/** How finely one piece, or several at once, are baked. */
export function DensityField({ pieces }: { pieces: readonly Piece[] }) {
  const dispatch = useAppDispatch();
  return (
    <NumberField
      label="Density"
      help={`Factor on all divisions of ${wordsFor(pieces)}.`}
      value={pieces[0].bake.density}
      mixed={new Set(pieces.map(({ bake }) => bake.density)).size > 1}
      min={0.05}
      max={20}
      comfortable={[0.25, 4]}
      initial={1}
      shown={{ factor: 1, unit: '×', digits: 2 }}
      onChange={(density, done) => {
        dispatch(
          editPieces(
            pieces,
            `Density of ${wordsFor(pieces)}`,
            (now) => ({ ...now, bake: { density } }),
            `${pieces.map(({ id }) => id).join(' ')} density`,
          ),
        );
        if (done) dispatch(gestureEnded());
      }}
    />
  );
}
