import { useEffect, useRef } from 'react';
import { api } from '../api/client.js';
import { useAppSelector } from '../app/store.js';
import { useEvaluation } from '../evaluation/EvaluationProvider.js';
import { drawCover } from './cover.js';

/** A saved state stands so long before its cover is drawn, and covers are so far apart, milliseconds. */
const REST = 4000;
const APART = 60_000;

/** Keeps the picture by which the list of projects shows this one: drawn once after it is opened, and after saves. */
export function CoverKeeper() {
  const evaluation = useEvaluation();
  const id = useAppSelector((state) => state.project.id);
  const document = useAppSelector((state) => state.project.document);
  const saved = useAppSelector((state) => state.project.save.state === 'saved');
  const drawn = useRef<{ document: unknown; at: number } | null>(null);
  useEffect(() => {
    if (!id || !document || !saved) return;
    let timer: ReturnType<typeof setTimeout>;
    const later = (ms: number) => {
      timer = setTimeout(draw, ms);
    };
    const draw = async () => {
      const computed = evaluation.current();
      if (drawn.current?.document === document) return;
      // not before all is made that would be in it
      if (computed.busy) return later(REST);
      drawn.current = { document, at: Date.now() };
      // a cover is not worth a word when it fails: the next save draws it again
      const png = await drawCover(document, computed).catch(() => null);
      if (png) await api.putCover(id, png).catch(() => {});
    };
    later(Math.max(REST, (drawn.current?.at ?? 0) + APART - Date.now()));
    return () => clearTimeout(timer);
  }, [evaluation, id, document, saved]);
  return null;
}
