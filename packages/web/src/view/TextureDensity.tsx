import { textureDensity } from '@kelp/core';
import { Box } from '@mui/material';
import { useMemo } from 'react';
import { useAppSelector } from '../app/store.js';
import { useBuild } from '../evaluation/EvaluationProvider.js';
import { countText } from '../fields/units.js';
import { COLOURS, NUMBER_FONT } from '../theme/colours.js';

/** Pixels of a texture that the density is stated for. */
const PIXELS = 1024;

/** Under the checker look: how many pixels of a texture there are to a metre of what is chosen. */
export function TextureDensity() {
  const shown = useAppSelector((state) => state.view.look === 'checker');
  const chosen = useAppSelector((state) => state.view.piece);
  return shown && chosen ? <Figure piece={chosen} /> : null;
}

function Figure({ piece }: { piece: string }) {
  const build = useBuild(piece);
  const density = useMemo(
    () => build && textureDensity(build.parts.flatMap((part) => (part.kind === 'mesh' ? [part.mesh] : []))),
    [build],
  );
  if (!density) return null;
  const [least, most] = [density.least, density.most].map((value) => countText(Math.round(PIXELS * value)));
  return (
    <Box
      role="status"
      aria-label="Texture density"
      sx={{ position: 'absolute', left: 20, bottom: 48, fontSize: 12, fontFamily: NUMBER_FONT, color: COLOURS.ink }}
    >
      {least === most ? least : `${least} to ${most}`} px/m at {PIXELS} px per repeat
    </Box>
  );
}
