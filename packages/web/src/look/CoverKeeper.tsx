import { useEffect, useRef } from 'react';
import { api } from '../api/client.js';
import { useAppSelector } from '../app/store.js';
import { useEvaluation } from '../evaluation/EvaluationProvider.js';
import { drawCover } from './cover.js';

/** A saved state stands so long before its cover is drawn, and covers are so far apart, milliseconds. */
const REST = 4000;
const APART = 60_000;

/** Keeps the picture by which the list of projects shows this one: drawn after saves, and after it is opened where none shows that. */
export function CoverKeeper() {
  const evaluation = useEvaluation();
  const id = useAppSelector((state) => state.project.id);
  const document = useAppSelector((state) => state.project.document);
  const saved = useAppSelector((state) => state.project.save.state === 'saved');
  const covered = useAppSelector((state) => state.project.covered);
  const drawn = useRef<{ id: string; document: unknown; at: number } | null>(null);
  const newest = useRef(document);
  newest.current = document;
  useEffect(() => {
    if (!id || !document || !saved) return;
    if (drawn.current?.id !== id) drawn.current = covered ? { id, document, at: 0 } : null;
    let timer: ReturnType<typeof setTimeout>;
    const later = (ms: number) => {
      timer = setTimeout(draw, ms);
    };
    const draw = async () => {
      const computed = evaluation.current();
      if (drawn.current?.document === document) return;
      // not before all is made that would be in it
      if (computed.busy) return later(REST);
      drawn.current = { id, document, at: Date.now() };
      // a cover is not worth a word when it fails: the next save draws it again
      const png = await drawCover(document, computed).catch(() => null);
      // one that is put after a later save would pass for a picture of it
      if (png && newest.current === document) await api.putCover(id, png).catch(() => {});
    };
    later(Math.max(REST, (drawn.current?.at ?? 0) + APART - Date.now()));
    return () => clearTimeout(timer);
  }, [evaluation, id, document, saved, covered]);
  return null;
}
