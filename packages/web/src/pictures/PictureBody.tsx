import type { Picture } from '@kelp/core';
import { useThree } from '@react-three/fiber';
import { useEffect, useState } from 'react';
import { DoubleSide, SRGBColorSpace, type Texture, TextureLoader } from 'three';
import { api } from '../api/client.js';

/** Turn about x, y, z that brings a sheet in the xy-plane into each plane. */
const TURNS: Record<Picture['plane'], [number, number, number]> = {
  front: [0, 0, 0],
  side: [0, Math.PI / 2, 0],
  top: [-Math.PI / 2, 0, 0],
};

/** A reference picture where it is; a locked one is looked through by clicks. */
export function PictureBody({ picture }: { picture: Picture }) {
  const { invalidate } = useThree();
  const [texture, setTexture] = useState<Texture | null>(null);
  useEffect(() => {
    let made: Texture | undefined;
    let open = true;
    new TextureLoader().loadAsync(api.propUrl(picture.image)).then(
      (loaded) => {
        made = loaded;
        loaded.colorSpace = SRGBColorSpace;
        if (open) setTexture(loaded);
        else loaded.dispose();
        invalidate();
      },
      // a picture that is missing is reported on its card; the scene goes on without it
      () => open && setTexture(null),
    );
    return () => {
      open = false;
      made?.dispose();
    };
  }, [picture.image, invalidate]);
  if (!texture) return null;
  const noRay = picture.locked ? { raycast: () => null } : {};
  return (
    <mesh
      position={picture.position}
      rotation={TURNS[picture.plane]}
      userData={picture.locked ? {} : { picture: picture.id }}
      {...noRay}
    >
      <planeGeometry args={[picture.width, picture.width * picture.aspect]} />
      <meshBasicMaterial
        map={texture}
        transparent
        opacity={picture.opacity}
        side={DoubleSide}
        toneMapped={false}
        depthWrite={false}
      />
    </mesh>
  );
}
