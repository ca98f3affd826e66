import { useFrame } from '@react-three/fiber';
import { type RefObject, useRef } from 'react';
import type { Group } from 'three';
import { useAppSelector } from '../app/store.js';
import type { PieceBuild } from '../evaluation/protocol.js';
import { PieceBody } from '../view/Bodies.js';

/**
 * Draws the view in two parts: left of the divider with the piece as it is (`now`), right of it with the kept state.
 * It takes over the drawing, so it may stand in the scene only while two states are compared.
 */
export function Wipe({ now, kept }: { now: RefObject<Group | null>; kept: PieceBuild }) {
  const look = useAppSelector((state) => state.view.look);
  const share = useAppSelector((state) => state.view.compare?.at ?? 0.5);
  const other = useRef<Group>(null);
  useFrame(({ gl, scene, camera, size }) => {
    const x = Math.round(share * size.width);
    const half = (left: number, width: number, showKept: boolean) => {
      if (now.current) now.current.visible = !showKept;
      if (other.current) other.current.visible = showKept;
      // each side casts its own shadow
      gl.shadowMap.needsUpdate = true;
      gl.setScissor(left, 0, width, size.height);
      gl.render(scene, camera);
    };
    gl.setScissorTest(true);
    half(x, size.width - x, true);
    half(0, x, false);
    gl.setScissorTest(false);
  }, 1);
  return (
    <group ref={other} visible={false}>
      <PieceBody build={kept} look={look} fade={false} chosen={false} through={false} />
    </group>
  );
}
