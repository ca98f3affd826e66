import type { Finding } from '@kelp/core';
import { useAppDispatch, useAppSelector } from '../app/store.js';
import { useComputed } from '../evaluation/EvaluationProvider.js';
import { checksShown, pieceChosen } from '../state/view-slice.js';
import { excess, Flags, findingWords } from './Flags.js';

/** Findings of all pieces, at their places. */
export function PieceFlags() {
  const dispatch = useAppDispatch();
  const document = useAppSelector((state) => state.project.document);
  const pen = useAppSelector((state) => state.view.pen);
  const builds = useComputed('builds');
  if (pen || !document) return null;
  const words = findingWords(document);
  return [...builds.values()].map(({ piece, findings }) => (
    <Flags
      key={piece}
      findings={flagged(findings)}
      words={words}
      onChoose={() => {
        dispatch(pieceChosen(piece));
        dispatch(checksShown(true));
      }}
    />
  ));
}

/** The worst of each kind: a view full of flags shows nothing, and the list of checks has them all. */
function flagged(findings: readonly Finding[]): readonly Finding[] {
  const worst = new Map<string, Finding>();
  for (const finding of findings) {
    const old = worst.get(finding.code);
    if (!old || excess(finding) > excess(old)) worst.set(finding.code, finding);
  }
  return [...worst.values()];
}
