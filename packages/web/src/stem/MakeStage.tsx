import { knownUnit, newUse, type Piece, sizeParameter, type UnitUse, unitOf, withPiece } from '@kelp/core';
import { Button } from '@mui/material';
import { useState } from 'react';
import { useAppDispatch } from '../app/store.js';
import { edit } from '../state/edits.js';
import { useEvent } from '../state/use-event.js';
import { Gallery } from './Gallery.js';
import { UnitParameters } from './UnitParameters.js';

/** What runs along the line: pictures first, then its numbers. */
export function MakeStage({ piece }: { piece: Piece }) {
  const dispatch = useAppDispatch();
  const [open, setOpen] = useState(true);
  const take = useEvent((unit: string, preset: string) => {
    const label = unitOf('make', unit).presets.find((candidate) => candidate.id === preset)?.label ?? unit;
    dispatch(
      edit(`${label} for ${piece.name}`, (document) =>
        withPiece(document, piece.id, (now) => ({ ...now, make: keepingSize(now, newUse('make', unit, preset)) })),
      ),
    );
  });
  return (
    <>
      {open && <Gallery unit={piece.make.unit} preset={presetOf(piece)} onTake={take} />}
      <Button size="small" sx={{ px: 0, mb: 1, minHeight: 22 }} onClick={() => setOpen(!open)} aria-expanded={open}>
        {open ? 'Fold the pictures' : 'Change…'}
      </Button>
      <UnitParameters piece={piece} place={{ stage: 'make' }} use={piece.make} />
    </>
  );
}

/** A thickness that was set by hand, or for the size of the line, stays when another preset is taken. */
function keepingSize(piece: Piece, next: UnitUse): UnitUse {
  const [from, to] = [sizeParameter(piece.make.unit), sizeParameter(next.unit)];
  if (!from || !to) return next;
  const size = piece.make.parameters[from];
  const untouched = knownUnit('make', piece.make.unit)?.presets.some(
    (preset) => newUse('make', piece.make.unit, preset.id).parameters[from] === size,
  );
  return untouched ? next : { ...next, parameters: { ...next.parameters, [to]: size } };
}

/** The preset whose settings the piece still has; null once one was changed. */
function presetOf({ make }: Piece): string | null {
  const size = sizeParameter(make.unit);
  const but = size ? { [size]: make.parameters[size] } : {};
  const same = knownUnit('make', make.unit)?.presets.find(
    (preset) =>
      JSON.stringify({ ...newUse('make', make.unit, preset.id).parameters, ...but }) ===
      JSON.stringify(make.parameters),
  );
  return same?.id ?? null;
}
