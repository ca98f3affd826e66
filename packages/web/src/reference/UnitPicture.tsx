import type { Stage } from '@kelp/core';
import { Box } from '@mui/material';
import { useEffect, useState } from 'react';
import { Vector3 } from 'three';
import { photograph } from '../look/photograph.js';
import { sampleOf } from '../look/samples.js';
import { COLOURS } from '../theme/colours.js';

const WIDTH = 320;
const HEIGHT = 200;
const FROM = new Vector3(0.45, 0.9, 1.2);

/** One picture after the other, so that the page can be scrolled meanwhile. */
let queue: Promise<unknown> = Promise.resolve();
const drawn = new Map<string, string>();

/** A unit at work on a small sample, drawn when the page is there. */
export function UnitPicture({ stage, unit, label }: { stage: Stage; unit: string; label: string }) {
  const [url, setUrl] = useState(() => drawn.get(unit) ?? null);
  useEffect(() => {
    if (drawn.has(unit)) return;
    let open = true;
    const draw = async () => {
      if (!open) return;
      // a moment for the page itself between two pictures
      await new Promise((resolve) => setTimeout(resolve, 20));
      const picture = await photograph(await sampleOf(stage, unit), FROM, WIDTH, HEIGHT);
      drawn.set(unit, picture);
      if (open) setUrl(picture);
    };
    // a picture that fails leaves its frame empty, and the next one its turn
    queue = queue.then(draw).catch(() => {});
    return () => {
      open = false;
    };
  }, [stage, unit]);
  return (
    <Box sx={{ width: WIDTH / 2, height: HEIGHT / 2, flexShrink: 0, borderRadius: '3px', background: COLOURS.view }}>
      {url && (
        <Box
          component="img"
          src={url}
          alt={`Example of ${label}`}
          sx={{ width: '100%', height: '100%', display: 'block' }}
        />
      )}
    </Box>
  );
}
