import { curvesParameter, unitsOf } from '@kelp/core';
import { ListItemText, Menu, MenuItem } from '@mui/material';
import { useAppDispatch } from '../app/store.js';
import { type Pen, penTaken } from '../state/view-slice.js';
import { useFreePlace } from './free-place.js';
import { addPiece } from './new-piece.js';

const PENS: { pen: Pen; label: string; purpose: string }[] = [
  { pen: 'stroke', label: 'Draw freehand', purpose: 'One stroke over the props.' },
  { pen: 'points', label: 'Draw by points', purpose: 'Click to add points.' },
  { pen: 'throw', label: 'Throw a line', purpose: 'From one point to another, with slack.' },
  { pen: 'string', label: 'String between things', purpose: 'Click things in order.' },
  { pen: 'wheels', label: 'Wheels', purpose: 'A belt runs around clicked wheels.' },
];

/** Every way to begin a piece. */
export function NewPieceMenu({ anchor, onClose }: { anchor: HTMLElement | null; onClose(): void }) {
  const dispatch = useAppDispatch();
  const freePlace = useFreePlace();
  const begin = (start: () => void) => () => {
    onClose();
    start();
  };
  return (
    <Menu anchorEl={anchor} open={anchor !== null} onClose={onClose}>
      {PENS.map(({ pen, label, purpose }) => (
        <MenuItem key={pen} onClick={begin(() => dispatch(penTaken(pen)))}>
          <ListItemText primary={label} secondary={purpose} />
        </MenuItem>
      ))}
      {unitsOf('path')
        // what runs along lines is begun with a pen, or with a file
        .filter(({ id, begins }) => (begins || !curvesParameter(id)) && id !== 'strung')
        .map(({ id, label, purpose }) => (
          <MenuItem key={id} onClick={begin(() => dispatch(addPiece(id, freePlace())))}>
            <ListItemText primary={label} secondary={purpose} />
          </MenuItem>
        ))}
    </Menu>
  );
}
