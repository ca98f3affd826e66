import { type Prop, Surroundings } from '@kelp/core';
import { useMemo } from 'react';
import { useAppSelector } from '../app/store.js';
import { useComputed, useEvaluation } from '../evaluation/EvaluationProvider.js';

/**
 * The visible props as the page feels them, or only those that are named. The trees are built when they are first asked
 * for, and kept by mesh.
 */
export function useSurroundings(): (named?: ReadonlySet<string>) => Surroundings {
  const props = useAppSelector((state) => state.project.document?.props);
  const meshes = useComputed('meshes');
  const { surfaces } = useEvaluation();
  return useMemo(() => {
    const of = (some: Prop[]) => {
      for (const { mesh: hash } of some) {
        const mesh = meshes.get(hash);
        if (mesh && !surfaces.has(hash)) surfaces.add(hash, mesh);
      }
      return surfaces.surroundings({ props: some });
    };
    let all: Surroundings | undefined;
    return (named) => {
      if (!props) return new Surroundings(new Map());
      if (named && !all) return of(props.filter(({ id }) => named.has(id)));
      all ??= of(props);
      return all;
    };
  }, [props, meshes, surfaces]);
}

/** The locked prop alone, or all of them. */
export function targetOnly(all: Surroundings, target: string | null): Surroundings {
  const surface = target ? all.surface(target) : undefined;
  return target && surface ? new Surroundings(new Map([[target, surface]])) : all;
}
