import { documentAt, type KelpDocument, newUse, type Picture, picturesRead, takenOver, withPiece } from '@kelp/core';
import { createContext, type ReactNode, useContext, useEffect, useMemo, useState, useSyncExternalStore } from 'react';
import { api } from '../api/client.js';
import { useAppSelector } from '../app/store.js';
import { clockNow, onClock } from '../state/clock.js';
import { type Computed, Evaluation } from './evaluation.js';
import type { PieceBuild } from './protocol.js';

const EvaluationContext = createContext<Evaluation | null>(null);

const NONE: readonly Picture[] = [];

/** Keeps a pool of workers for the open project and sends them every change of the document. */
export function EvaluationProvider({ children }: { children: ReactNode }) {
  const [evaluation, setEvaluation] = useState<Evaluation | null>(null);
  useEffect(() => {
    const made = new Evaluation();
    setEvaluation(made);
    return () => made.close();
  }, []);
  return (
    evaluation && (
      <EvaluationContext.Provider value={evaluation}>
        <Feed evaluation={evaluation} />
        {children}
      </EvaluationContext.Provider>
    )
  );
}

function Feed({ evaluation }: { evaluation: Evaluation }) {
  const stored = useAppSelector((state) => state.project.document);
  const tried = useAppSelector((state) => state.view.tried);
  const chosen = useAppSelector((state) => state.view.piece);
  // what is only tried is seen, and nothing is changed
  const phase = usePacedPhase(evaluation, stored?.pieces.some(({ keyed }) => keyed) ?? false);
  const document = useMemo(() => {
    const shown = trying(stored, chosen, tried);
    return shown && documentAt(shown, phase);
  }, [stored, chosen, tried, phase]);
  const draft = useAppSelector((state) => (state.project.gesture ? state.view.piece : null));
  const piece = useAppSelector((state) => state.view.piece);
  const pieces = useAppSelector((state) => state.view.pieces);
  const stage = useAppSelector((state) => state.view.watch);
  const pictures = useMemo(() => (document ? picturesRead(document) : NONE), [document]);
  const ready = useSyncExternalStore(evaluation.subscribe, () => {
    const { meshes, read, failed } = evaluation.current();
    return (
      (document?.props.every(({ mesh }) => meshes.has(mesh) || failed.has(mesh)) ?? false) &&
      pictures.every(({ image }) => read.has(image) || failed.has(image))
    );
  });
  useEffect(() => {
    for (const { mesh } of document?.props ?? [])
      if (evaluation.wants(mesh))
        api.prop(mesh).then(
          (bytes) => evaluation.addProp(mesh, bytes),
          (error: Error) => evaluation.fileFailed(mesh, error.message),
        );
  }, [evaluation, document?.props]);
  useEffect(() => {
    for (const { image } of pictures)
      if (evaluation.wants(image))
        api.prop(image).then(
          (bytes) => evaluation.addPicture(image, bytes),
          (error: Error) => evaluation.fileFailed(image, error.message),
        );
  }, [evaluation, pictures]);
  // a mesh that arrives changes all that clings to it: what is there is computed once it is complete
  useEffect(() => {
    if (document && ready)
      evaluation.evaluate(document, {
        draft,
        watch: piece !== null && stage !== null ? { piece, stage } : null,
        first: pieces,
      });
  }, [evaluation, document, draft, ready, piece, pieces, stage]);
  return null;
}

/** Steps of a loop that are computed at most. */
const STEPS = 96;

/** Where the clock stands, as fast as what is keyed to it is computed: one answer is awaited before the next is asked for. */
function usePacedPhase(evaluation: Evaluation, keyed: boolean): number {
  const [phase, setPhase] = useState(0);
  useEffect(() => {
    if (!keyed) return setPhase(0);
    const look = () => {
      if (!evaluation.current().busy) setPhase(Math.round(clockNow().phase * STEPS) / STEPS);
    };
    const ends = [onClock(look), evaluation.subscribe(look)];
    return () => {
      for (const end of ends) end();
    };
  }, [evaluation, keyed]);
  return phase;
}

/** The document with a preset tried on one of its pieces. */
function trying(
  document: KelpDocument | null,
  piece: string | null,
  tried: { unit: string; preset: string } | null,
): KelpDocument | null {
  if (!document || !piece || !tried) return document;
  const next = newUse('make', tried.unit, tried.preset);
  return withPiece(document, piece, (now) => ({ ...now, make: takenOver(now.make, next) }));
}

export function useEvaluation(): Evaluation {
  const evaluation = useContext(EvaluationContext);
  if (!evaluation) throw new Error('useEvaluation needs an EvaluationProvider above it');
  return evaluation;
}

/** One part of the computed project; draws again when that part changes. */
export function useComputed<Part extends keyof Computed>(part: Part): Computed[Part] {
  const evaluation = useEvaluation();
  return useSyncExternalStore(evaluation.subscribe, () => evaluation.current()[part]);
}

/** What is computed of one piece; draws again when it is computed anew, not when others are. */
export function useBuild(piece: string | null): PieceBuild | undefined {
  const evaluation = useEvaluation();
  return useSyncExternalStore(evaluation.subscribe, () => (piece ? evaluation.current().builds.get(piece) : undefined));
}
