import { useThree } from '@react-three/fiber';
import { useEffect, useRef } from 'react';
import { useAppSelector } from '../app/store.js';
import { ContactShade } from './contact-shade.js';

export interface PictureRequest {
  /** Pixels across. */
  width: number;
}

/**
 * Inside the canvas: draws the view once at the asked size, as it stands at rest, and gives it to the browser as a PNG.
 * `reach`: how far its contact shadows are felt, metres.
 */
export function SavePicture({ request, reach }: { request: PictureRequest | null; reach: number }) {
  const { gl, scene, camera, size, invalidate } = useThree();
  const name = useAppSelector((state) => state.project.document?.name ?? 'view');
  const done = useRef<PictureRequest | null>(null);
  useEffect(() => {
    if (!request || done.current === request) return;
    done.current = request;
    const before = gl.getPixelRatio();
    gl.setPixelRatio(request.width / size.width);
    const shade = new ContactShade();
    shade.draw(gl, scene, camera, reach);
    shade.dispose();
    gl.domElement.toBlob((blob) => {
      if (!blob) return;
      const link = document.createElement('a');
      link.href = URL.createObjectURL(blob);
      link.download = `${name.replaceAll(/[^\w-]+/g, '-')}.png`;
      link.click();
      URL.revokeObjectURL(link.href);
    }, 'image/png');
    gl.setPixelRatio(before);
    invalidate();
  }, [request, gl, scene, camera, size, name, reach, invalidate]);
  return null;
}
