import { useThree } from '@react-three/fiber';
import { useEffect, useState } from 'react';
import type { Texture } from 'three';
import { api } from '../api/client.js';
import { pictureTexture } from './textures.js';

/** Pictures that materials wear, once each; those that are missing stay missing until the page is opened again. */
const loaded = new Map<string, Promise<Texture | null>>();

/** The texture of a stored picture; null without one, until it is there, and where its file is missing. */
export function usePictureTexture(hash: string | undefined): Texture | null {
  const invalidate = useThree((state) => state.invalidate);
  const [there, setThere] = useState<{ hash: string; texture: Texture | null } | null>(null);
  useEffect(() => {
    if (hash === undefined) return;
    let open = true;
    const loading = loaded.get(hash) ?? pictureTexture(api.propUrl(hash)).catch(() => null);
    loaded.set(hash, loading);
    loading.then((texture) => {
      if (!open) return;
      setThere({ hash, texture });
      invalidate();
    });
    return () => {
      open = false;
    };
  }, [hash, invalidate]);
  return there && there.hash === hash ? there.texture : null;
}
