import { SurfaceStore, type Surroundings } from '@kelp/core';
import { useMemo } from 'react';
import { useAppSelector } from '../app/store.js';
import { useComputed } from '../evaluation/EvaluationProvider.js';

/**
 * The props as the pens feel them, on the page's own thread: a pointer cannot wait for a worker. The trees are built
 * when they are first asked for, and kept by mesh.
 */
export function useSurroundings(): () => Surroundings {
  const document = useAppSelector((state) => state.project.document);
  const { meshes } = useComputed();
  const store = useMemo(() => new SurfaceStore(), []);
  return useMemo(() => {
    let made: Surroundings | undefined;
    return () => {
      if (made || !document) return made ?? store.surroundings(EMPTY).surroundings;
      for (const { mesh: hash } of document.props) {
        const mesh = meshes.get(hash);
        if (mesh && !store.has(hash)) store.add(hash, mesh);
      }
      made = store.surroundings(document).surroundings;
      return made;
    };
  }, [document, meshes, store]);
}

const EMPTY = { props: [] } as unknown as Parameters<SurfaceStore['surroundings']>[0];
