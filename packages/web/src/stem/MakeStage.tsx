import { newUse, type Piece, unitOf, withPiece } from '@kelp/core';
import { Button } from '@mui/material';
import { useState } from 'react';
import { useAppDispatch } from '../app/store.js';
import { edit } from '../state/edits.js';
import { Gallery } from './Gallery.js';
import { UnitParameters } from './UnitParameters.js';

/** What runs along the line: pictures first, then its numbers. */
export function MakeStage({ piece }: { piece: Piece }) {
  const dispatch = useAppDispatch();
  const [open, setOpen] = useState(true);
  const take = (unit: string, preset: string) => {
    const label = unitOf('make', unit).presets.find((candidate) => candidate.id === preset)?.label ?? unit;
    dispatch(
      edit(`${label} for ${piece.name}`, (document) =>
        withPiece(document, piece.id, (now) => ({ ...now, make: newUse('make', unit, preset) })),
      ),
    );
  };
  return (
    <>
      {open && <Gallery chosen={{ unit: piece.make.unit, preset: presetOf(piece) }} onTake={take} />}
      <Button size="small" sx={{ px: 0, mb: 1, minHeight: 22 }} onClick={() => setOpen(!open)} aria-expanded={open}>
        {open ? 'Fold the pictures' : 'Change…'}
      </Button>
      <UnitParameters piece={piece} place={{ stage: 'make' }} use={piece.make} />
    </>
  );
}

/** The preset whose settings the piece still has; null once one was changed. */
function presetOf({ make }: Piece): string | null {
  const unit = unitOf('make', make.unit);
  const same = unit.presets.find(
    (preset) => JSON.stringify(newUse('make', make.unit, preset.id).parameters) === JSON.stringify(make.parameters),
  );
  return same?.id ?? null;
}
