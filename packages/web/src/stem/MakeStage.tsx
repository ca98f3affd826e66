import { knownUnit, newUse, type Piece, sizeParameter } from '@kelp/core';
import HelpOutline from '@mui/icons-material/HelpOutlineRounded';
import { Box, Button, IconButton } from '@mui/material';
import { useState } from 'react';
import { useAppDispatch, useAppSelector } from '../app/store.js';
import { ElementCard } from '../elements/ElementCard.js';
import { guideFor } from '../guide/pages.js';
import { useEvent } from '../state/use-event.js';
import { lockerOpened } from '../state/view-slice.js';
import { Gallery } from './Gallery.js';
import { KeyedNumbers } from './KeyedNumbers.js';
import { Lists } from './Lists.js';
import { takePreset } from './take-preset.js';
import { UnitParameters } from './UnitParameters.js';

/** What runs along the line: pictures of the unit in hand, the door to all others, then its numbers. */
export function MakeStage({ piece }: { piece: Piece }) {
  const dispatch = useAppDispatch();
  const locker = useAppSelector((state) => state.view.locker);
  const [open, setOpen] = useState(true);
  const guide = guideFor(piece.make.unit);
  const take = useEvent((unit: string, preset: string) => dispatch(takePreset(piece, unit, preset)));
  return (
    <>
      <Box sx={{ display: 'flex', mb: 1, mt: -8, gap: 1, justifyContent: 'flex-end' }}>
        {guide && (
          <IconButton
            component="a"
            href={`/guide/${guide.id}`}
            target="_blank"
            aria-label={`Guide: ${guide.title}`}
            title={`Guide: ${guide.title}`}
            size="small"
          >
            <HelpOutline fontSize="small" />
          </IconButton>
        )}
        <Button
          variant="outlined"
          color="inherit"
          aria-expanded={locker}
          data-door="locker"
          onClick={() => dispatch(lockerOpened(!locker))}
        >
          Locker
        </Button>
      </Box>
      {open && <Gallery unit={piece.make.unit} preset={presetOf(piece)} onTake={take} />}
      <Button size="small" sx={{ px: 0, mb: 1, minHeight: 22 }} onClick={() => setOpen(!open)} aria-expanded={open}>
        {open ? 'Hide pictures' : 'Show pictures'}
      </Button>
      <UnitParameters piece={piece} place={{ stage: 'make' }} use={piece.make} />
      <KeyedNumbers piece={piece} />
      <ElementCard piece={piece} />
      <Lists piece={piece} />
    </>
  );
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
