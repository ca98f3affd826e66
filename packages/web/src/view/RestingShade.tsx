import { useFrame, useThree } from '@react-three/fiber';
import { useEffect, useMemo, useRef } from 'react';
import { ContactShade } from './contact-shade.js';

/** How long the view stands still before its shade is drawn, milliseconds: nothing that moves waits for it. */
const REST = 250;

/** Contact shadows once the view stands still. */
export function RestingShade({ reach }: { reach: number }) {
  const { gl, scene, camera } = useThree();
  const shade = useMemo(() => new ContactShade(), []);
  const waiting = useRef<ReturnType<typeof setTimeout>>(undefined);
  useEffect(
    () => () => {
      clearTimeout(waiting.current);
      shade.dispose();
    },
    [shade],
  );
  useFrame(() => {
    clearTimeout(waiting.current);
    waiting.current = setTimeout(() => {
      if (!gl.getContext().isContextLost()) shade.draw(gl, scene, camera, reach);
    }, REST);
  });
  return null;
}
