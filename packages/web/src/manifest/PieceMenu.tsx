import type { Detail, Piece } from '@kelp/core';
import MoreVert from '@mui/icons-material/MoreVert';
import { Box, Menu, MenuItem } from '@mui/material';
import { useState } from 'react';
import { useAppDispatch } from '../app/store.js';
import {
  DETAIL_WORDS,
  deletePieces,
  detailPieces,
  duplicatePieces,
  isolatePieces,
  lockPieces,
  movePiece,
  wordsFor,
} from './piece-edits.js';

const DOTS = <MoreVert sx={{ fontSize: 15 }} />;
const DETAILS: readonly (Detail | undefined)[] = ['path', 'draft', undefined];

interface PieceMenuProps {
  piece: Piece;
  allOf(piece: Piece): readonly Piece[];
  onRename(): void;
}

/** What can be done with a piece as a whole, or with all that are chosen where it is one of them. */
export function PieceMenu({ piece, allOf, onRename }: PieceMenuProps) {
  const dispatch = useAppDispatch();
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const [open, setOpen] = useState(false);
  const [after, setAfter] = useState<(() => void) | null>(null);
  const close = () => setOpen(false);
  const act = (run: () => void) => () => {
    close();
    run();
  };
  // a menu that nobody opened is not there, in none of a thousand rows
  const all = anchor ? allOf(piece) : [piece];
  const many = all.length > 1;
  const of = many ? ` ${wordsFor(all)}` : '';
  return (
    <>
      <button
        type="button"
        className="row-icon row-more"
        aria-label={`More actions for ${piece.name}`}
        aria-haspopup="menu"
        onClick={(event) => {
          setAnchor(event.currentTarget);
          setOpen(true);
        }}
      >
        {DOTS}
      </button>
      {anchor && (
        <Menu
          anchorEl={anchor}
          open={open}
          onClose={close}
          // the name field takes the focus once the menu has given it back
          slotProps={{
            transition: {
              onExited: () => {
                setAnchor(null);
                setAfter(null);
                after?.();
              },
            },
          }}
        >
          {!many && <MenuItem onClick={act(() => setAfter(() => onRename))}>Rename</MenuItem>}
          <MenuItem onClick={act(() => dispatch(duplicatePieces(all)))}>Duplicate{of}</MenuItem>
          <MenuItem onClick={act(() => dispatch(isolatePieces(all)))}>
            Show {many ? 'them' : 'it'} only, or all again
          </MenuItem>
          <MenuItem onClick={act(() => dispatch(lockPieces(all, !piece.locked)))}>
            {piece.locked ? 'Unlock' : 'Lock'}
            {of}
          </MenuItem>
          {DETAILS.map((detail) => (
            <MenuItem
              key={detail ?? 'full'}
              role="menuitemradio"
              aria-checked={piece.detail === detail}
              onClick={act(() => dispatch(detailPieces(all, detail)))}
            >
              <Box component="span" sx={{ width: 18 }}>
                {piece.detail === detail && '✓'}
              </Box>
              {DETAIL_WORDS[detail ?? 'full']}
            </MenuItem>
          ))}
          {!many && <MenuItem onClick={act(() => dispatch(movePiece(piece, -1)))}>Move up</MenuItem>}
          {!many && <MenuItem onClick={act(() => dispatch(movePiece(piece, 1)))}>Move down</MenuItem>}
          <MenuItem disabled={all.every(({ locked }) => locked)} onClick={act(() => dispatch(deletePieces(all)))}>
            Delete{of}
          </MenuItem>
        </Menu>
      )}
    </>
  );
}
