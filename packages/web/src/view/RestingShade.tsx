import { useFrame, useThree } from '@react-three/fiber';
import { useEffect, useRef } from 'react';
import type { ContactShade } from './contact-shade.js';

/** How long the view stands still before its shade is drawn, milliseconds: nothing that moves waits for it. */
const REST = 250;

/** Contact shadows once the view stands still. Their code comes with the first rest: the first picture needs none. */
export function RestingShade({ reach }: { reach: number }) {
  const { gl, scene, camera } = useThree();
  const shade = useRef<ContactShade>(undefined);
  const waiting = useRef<ReturnType<typeof setTimeout>>(undefined);
  useEffect(
    () => () => {
      clearTimeout(waiting.current);
      waiting.current = undefined;
      shade.current?.dispose();
      shade.current = undefined;
    },
    [],
  );
  useFrame(() => {
    clearTimeout(waiting.current);
    const rest = setTimeout(async () => {
      const { ContactShade } = await import('./contact-shade.js');
      // it moved on, or is gone, while the code was fetched
      if (waiting.current !== rest || gl.getContext().isContextLost()) return;
      shade.current ??= new ContactShade();
      shade.current.lay(gl, scene, camera, reach);
    }, REST);
    waiting.current = rest;
  });
  return null;
}
