import type { BakeChoice, Piece } from '@kelp/core';
import { Switch } from '@mui/material';
import { useAppDispatch } from '../app/store.js';
import { ControlRow } from '../fields/ControlRow.js';
import { NumberField } from '../fields/NumberField.js';
import { editPieces, wordsFor } from '../manifest/piece-edits.js';
import { gestureEnded } from '../state/project-slice.js';

/** How one piece, or several at once, are baked. */
export function BakeFields({ pieces }: { pieces: readonly Piece[] }) {
  const dispatch = useAppDispatch();
  const change = (label: string, by: Partial<BakeChoice>, gesture?: string) =>
    dispatch(
      editPieces(
        pieces,
        `${label} of ${wordsFor(pieces)}`,
        (now) => ({ ...now, bake: { ...now.bake, ...by } }),
        gesture && `${pieces.map(({ id }) => id).join(' ')} ${gesture}`,
      ),
    );
  return (
    <>
      <NumberField
        label="Density"
        help={`Factor on all divisions of ${wordsFor(pieces)}; 1 bakes as set, 2 twice as fine.`}
        value={pieces[0].bake.density}
        mixed={new Set(pieces.map(({ bake }) => bake.density)).size > 1}
        min={0.05}
        max={20}
        comfortable={[0.25, 4]}
        initial={1}
        shown={{ factor: 1, unit: '×', digits: 2 }}
        onChange={(density, done) => {
          change('Density', { density }, 'density');
          if (done) dispatch(gestureEnded());
        }}
      />
      <ControlRow label="Tangents" help="Add tangents to the baked mesh, for normal maps.">
        <Switch
          size="small"
          checked={pieces.every(({ bake }) => bake.tangents === true)}
          onChange={(_event, tangents) => change('Tangents', { tangents })}
          slotProps={{ input: { 'aria-label': 'Tangents' } }}
        />
      </ControlRow>
    </>
  );
}
