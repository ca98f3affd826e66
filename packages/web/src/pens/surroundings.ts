import { Surroundings } from '@kelp/core';
import { useMemo } from 'react';
import { useAppSelector } from '../app/store.js';
import { useComputed, useEvaluation } from '../evaluation/EvaluationProvider.js';

/** The visible props as the page feels them. The trees are built when they are first asked for, and kept by mesh. */
export function useSurroundings(): () => Surroundings {
  const props = useAppSelector((state) => state.project.document?.props);
  const meshes = useComputed('meshes');
  const { surfaces } = useEvaluation();
  return useMemo(() => {
    let made: Surroundings | undefined;
    return () => {
      if (made || !props) return made ?? new Surroundings(new Map());
      for (const { mesh: hash } of props) {
        const mesh = meshes.get(hash);
        if (mesh && !surfaces.has(hash)) surfaces.add(hash, mesh);
      }
      made = surfaces.surroundings({ props });
      return made;
    };
  }, [props, meshes, surfaces]);
}

/** The locked prop alone, or all of them. */
export function targetOnly(all: Surroundings, target: string | null): Surroundings {
  const surface = target ? all.surface(target) : undefined;
  return target && surface ? new Surroundings(new Map([[target, surface]])) : all;
}
