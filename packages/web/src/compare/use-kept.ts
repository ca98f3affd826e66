import { takeVariant } from '@kelp/core';
import { useEffect, useState } from 'react';
import { useStore } from 'react-redux';
import { type AppState, useAppSelector } from '../app/store.js';
import { useEvaluation } from '../evaluation/EvaluationProvider.js';
import type { PieceBuild } from '../evaluation/protocol.js';

/** The kept state that is compared with, computed; null while nothing is compared or it is not there yet. */
export function useKept(): PieceBuild | null {
  const evaluation = useEvaluation();
  const piece = useAppSelector((state) => state.view.piece);
  const variantId = useAppSelector((state) => state.view.compare?.variant);
  const store = useStore<AppState>();
  const variant = useAppSelector(({ project }) =>
    project.document?.pieces.find(({ id }) => id === piece)?.variants?.find(({ id }) => id === variantId),
  );
  const props = useAppSelector(({ project }) => project.document?.props);
  const [kept, setKept] = useState<PieceBuild | null>(null);
  // made again when the variant or a prop changes, not at every edit of the piece it is compared with
  // biome-ignore lint/correctness/useExhaustiveDependencies: document
  useEffect(() => {
    setKept(null);
    const { document } = store.getState().project;
    if (!document || !piece || !variant) return;
    let open = true;
    evaluation.trial(takeVariant(document, piece, variant.id), piece, false).then(
      (build) => open && setKept(build),
      () => open && setKept(null),
    );
    return () => {
      open = false;
    };
  }, [evaluation, store, piece, variant, props]);
  return kept;
}
