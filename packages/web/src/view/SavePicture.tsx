import { useThree } from '@react-three/fiber';
import { useEffect, useRef } from 'react';
import { offer } from '../app/offer.js';
import { useAppSelector } from '../app/store.js';

export interface PictureRequest {
  /** Pixels across. */
  width: number;
}

/**
 * Inside the canvas: draws the view once at the asked size, as it is at rest, and gives it to the browser as a PNG.
 * `reach`: how far its contact shadows are felt, metres.
 */
export function SavePicture({ request, reach }: { request: PictureRequest | null; reach: number }) {
  const { gl, scene, camera, size, invalidate } = useThree();
  const name = useAppSelector((state) => state.project.document?.name ?? 'view');
  const plain = useAppSelector((state) => state.view.look === 'mesh');
  const done = useRef<PictureRequest | null>(null);
  useEffect(() => {
    if (!request || done.current === request) return;
    done.current = request;
    const draw = async () => {
      const { ContactShade } = await import('./contact-shade.js');
      const before = gl.getPixelRatio();
      gl.setPixelRatio(request.width / size.width);
      gl.render(scene, camera);
      if (!plain) {
        const shade = new ContactShade();
        shade.lay(gl, scene, camera, reach);
        shade.dispose();
      }
      // the buffer is read before the browser clears it: in the task that drew it
      gl.domElement.toBlob((blob) => blob && offer(blob, `${name.replaceAll(/[^\w-]+/g, '-')}.png`), 'image/png');
      gl.setPixelRatio(before);
      invalidate();
    };
    draw().catch(console.error);
  }, [request, gl, scene, camera, size, name, reach, plain, invalidate]);
  return null;
}
