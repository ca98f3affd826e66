import { type SlideTrack, slidRepeats } from '@kelp/core';
import { useThree } from '@react-three/fiber';
import { useEffect, useMemo } from 'react';
import { onClock } from '../state/clock.js';
import { movable, type Worn } from './textures.js';

/** Textures that run along with the clock. Nothing is computed anew: it is one offset. */
export function useSliding(
  { map, normalMap, normalScale }: Worn,
  slide: SlideTrack | undefined,
  repeat?: number,
): Worn {
  const invalidate = useThree((state) => state.invalidate);
  const own = useMemo(
    () => (slide ? movable({ map, normalMap, normalScale }) : { map, normalMap, normalScale }),
    [slide, map, normalMap, normalScale],
  );
  useEffect(() => {
    if (!slide) return undefined;
    const repeats = slidRepeats(slide, repeat);
    const end = onClock(({ phase }) => {
      for (const texture of [own.map, own.normalMap]) texture?.offset.setY(-repeats * phase);
      invalidate();
    });
    return () => {
      end();
      own.map?.dispose();
      own.normalMap?.dispose();
    };
  }, [slide, own, repeat, invalidate]);
  return own;
}
