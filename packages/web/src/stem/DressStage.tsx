import { newUse, type Piece, unitOf, withPiece } from '@kelp/core';
import { Box, Button } from '@mui/material';
import { useAppDispatch } from '../app/store.js';
import { edit } from '../state/edits.js';
import { UnitParameters } from './UnitParameters.js';

/** The piece's materials: a few to start from, then their numbers. */
export function DressStage({ piece }: { piece: Piece }) {
  const dispatch = useAppDispatch();
  return (
    <>
      <Box sx={{ display: 'flex', gap: 1.5, mb: 2, flexWrap: 'wrap' }}>
        {unitOf('dress', piece.dress.unit).presets.map((preset) => (
          <Button
            key={preset.id}
            variant="outlined"
            color="inherit"
            onClick={() =>
              dispatch(
                edit(`${preset.label} for ${piece.name}`, (document) =>
                  withPiece(document, piece.id, (now) => ({
                    ...now,
                    dress: newUse('dress', now.dress.unit, preset.id),
                  })),
                ),
              )
            }
          >
            {preset.label}
          </Button>
        ))}
      </Box>
      <UnitParameters piece={piece} place={{ stage: 'dress' }} use={piece.dress} />
    </>
  );
}
