import { Box } from '@mui/material';
import { useEffect, useState } from 'react';
import { Vector3 } from 'three';
import { useAppSelector } from '../app/store.js';
import type { PieceBuild } from '../evaluation/protocol.js';
import { COLOURS } from '../theme/colours.js';
import { photograph } from './photograph.js';
import { sittersOf } from './sitters.js';

const WIDTH = 168;
const HEIGHT = 104;
const FROM = new Vector3(0.6, 0.75, 1);
/** The piece stands so long before its picture is drawn, milliseconds. */
const REST = 900;

/** Pictures that were drawn, by the parts they show. */
const drawn = new WeakMap<object, string>();

/** The piece as it is, small. Stays as it was while the piece is being changed. */
export function PiecePicture({ build }: { build: PieceBuild }) {
  const inHand = useAppSelector((state) => state.project.gesture !== null);
  const [url, setUrl] = useState(() => drawn.get(build.parts) ?? null);
  useEffect(() => {
    const known = drawn.get(build.parts);
    if (known) setUrl(known);
    if (known || build.draft || inHand) return;
    let open = true;
    const timer = setTimeout(() => {
      photograph(sittersOf(build), FROM, WIDTH, HEIGHT).then(
        (picture) => {
          drawn.set(build.parts, picture);
          if (open) setUrl(picture);
        },
        // a browser without WebGL: the frame stays empty
        () => {},
      );
    }, REST);
    return () => {
      open = false;
      clearTimeout(timer);
    };
  }, [build, inHand]);
  return (
    <Box sx={{ width: WIDTH / 2, height: HEIGHT / 2, flexShrink: 0, borderRadius: '3px', background: COLOURS.view }}>
      {url && <Box component="img" src={url} alt="" sx={{ width: '100%', height: '100%', display: 'block' }} />}
    </Box>
  );
}
