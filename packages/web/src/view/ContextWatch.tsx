import { useThree } from '@react-three/fiber';
import { useEffect } from 'react';

/** Inside the canvas: reports when the graphics card lets go of the view, and when it is there again. */
export function ContextWatch({ onLost }: { onLost(lost: boolean): void }) {
  const { gl } = useThree();
  useEffect(() => {
    const element = gl.domElement;
    const lost = () => onLost(true);
    const restored = () => onLost(false);
    element.addEventListener('webglcontextlost', lost);
    element.addEventListener('webglcontextrestored', restored);
    return () => {
      element.removeEventListener('webglcontextlost', lost);
      element.removeEventListener('webglcontextrestored', restored);
    };
  }, [gl, onLost]);
  return null;
}
