import type { BendProfile } from '@kelp/core';
import { useEffect, useState } from 'react';
import { useEvaluation } from '../evaluation/EvaluationProvider.js';
import type { PieceBuild } from '../evaluation/protocol.js';

/** Of very many pieces, the bends of the first ones: more courses over each other say nothing. */
const MAX_PIECES = 12;

const known = new WeakMap<PieceBuild, readonly BendProfile[]>();

/** How tight the bodies of some pieces bend, asked for when they are looked at. What was known stays until it is measured anew. */
export function useBends(builds: readonly PieceBuild[]): readonly BendProfile[] {
  const evaluation = useEvaluation();
  const [bends, setBends] = useState<readonly BendProfile[]>([]);
  useEffect(() => {
    let open = true;
    const asked = builds.slice(0, MAX_PIECES).map(async (build) => {
      const profiles = known.get(build) ?? (await evaluation.ask(build.piece, { what: 'bends' }).catch(() => []));
      known.set(build, profiles);
      return profiles;
    });
    Promise.all(asked).then((all) => open && setBends(all.flat()));
    return () => {
      open = false;
    };
  }, [evaluation, builds]);
  return bends;
}
