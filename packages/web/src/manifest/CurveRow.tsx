import type { DrawnCurve } from '@kelp/core';
import { memo } from 'react';
import { useAppDispatch, useAppSelector } from '../app/store.js';
import { floatOpened, pieceChosen, pointsChosen } from '../state/view-slice.js';
import './row.css';

interface CurveRowProps {
  curve: DrawnCurve;
  /** The piece that runs along it. */
  owner: string | undefined;
}

/** One drawn line: how many points it has. A click chooses them, in the piece that runs along it. */
export const CurveRow = memo(function CurveRow({ curve, owner }: CurveRowProps) {
  const dispatch = useAppDispatch();
  const chosen = useAppSelector((state) => state.view.point?.curve === curve.id);
  const choose = () => {
    if (!owner) return;
    dispatch(pieceChosen(owner));
    dispatch(floatOpened('path'));
    dispatch(pointsChosen(curve.points.map((_, index) => ({ curve: curve.id, index }))));
  };
  return (
    <div className={`manifest-row${chosen ? ' chosen' : ''}`}>
      <span className="row-colour" />
      <button type="button" className="row-pick" onClick={choose} disabled={!owner} aria-pressed={chosen}>
        <span className="row-name" title={curve.name} dir="auto">
          {curve.name}
        </span>
        <span className="number row-figure of-line">{curve.points.length}</span>
      </button>
    </div>
  );
});
