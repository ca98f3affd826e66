import { type DisplayUnit, isOwnDress, MAIN_SLOT, type Piece } from '@kelp/core';
import BlurOn from '@mui/icons-material/BlurOn';
import Polyline from '@mui/icons-material/Polyline';
import { memo } from 'react';
import { useAppDispatch } from '../app/store.js';
import type { PieceBuild } from '../evaluation/protocol.js';
import { gestureEnded } from '../state/project-slice.js';
import { checksShown, pieceChosen } from '../state/view-slice.js';
import { Figures } from './Figures.js';
import { PieceMenu } from './PieceMenu.js';
import { colourOf, colourPieces, lockPieces, renamePiece, showPieces } from './piece-edits.js';
import { Row } from './Row.js';

const MARKS = {
  path: <Polyline titleAccess="line only" sx={{ fontSize: 13, color: 'text.secondary' }} />,
  draft: <BlurOn titleAccess="draft" sx={{ fontSize: 14, color: 'text.secondary' }} />,
};

interface PieceRowProps {
  piece: Piece;
  /** What came of it; undefined while it is built and where it is hidden. */
  build: PieceBuild | undefined;
  display: DisplayUnit;
  chosen: boolean;
  renaming: boolean;
  /** The piece, or all that are chosen where it is one of them: what is done to one is done to all. */
  allOf(piece: Piece): readonly Piece[];
  onChoose(id: string, keys: { ctrl: boolean; shift: boolean }): void;
  onRename(id: string | null): void;
}

/** One piece of the manifest. Drawn again only when something of its own changed. */
export const PieceRow = memo(function PieceRow(props: PieceRowProps) {
  const { piece, build, display, chosen, renaming, allOf, onChoose, onRename } = props;
  const dispatch = useAppDispatch();
  const { id, name, visible, locked, dress } = piece;
  const main = dress[MAIN_SLOT];
  const dyed = isOwnDress(main) ? colourOf(main) : undefined;
  const colour = dyed && main && isOwnDress(main) ? main.parameters[dyed] : undefined;
  return (
    <Row
      name={name}
      mark={piece.detail && MARKS[piece.detail]}
      figure={<Figures figure={(column) => (build ? column.text(build, display) : visible ? '…' : '')} />}
      chosen={chosen}
      visible={visible}
      findings={build?.findings}
      colour={typeof colour === 'string' ? colour : undefined}
      onColour={(next, done) => {
        dispatch(colourPieces(allOf(piece), next, `colour ${id}`));
        if (done) dispatch(gestureEnded());
      }}
      onChoose={({ ctrlKey, metaKey, shiftKey }) => onChoose(id, { ctrl: ctrlKey || metaKey, shift: shiftKey })}
      onShow={() => dispatch(showPieces(allOf(piece), !visible))}
      onFindings={() => {
        dispatch(pieceChosen(id));
        dispatch(checksShown(true));
      }}
      onUnlock={locked ? () => dispatch(lockPieces(allOf(piece), false)) : undefined}
      onName={
        renaming
          ? (next) => {
              onRename(null);
              if (next && next !== name) dispatch(renamePiece(piece, next));
            }
          : undefined
      }
      menu={<PieceMenu piece={piece} allOf={allOf} onRename={() => onRename(id)} />}
    />
  );
});
