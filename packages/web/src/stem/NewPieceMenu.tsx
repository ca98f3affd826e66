import { curvesParameter, unitsOf } from '@kelp/core';
import { ListItemText, Menu, MenuItem } from '@mui/material';
import { useAppDispatch } from '../app/store.js';
import { type Pen, penTaken } from '../state/view-slice.js';
import { useFreePlace } from './free-place.js';
import { addPiece } from './new-piece.js';

const PENS: { pen: Pen; label: string; purpose: string }[] = [
  { pen: 'stroke', label: 'Draw a stroke', purpose: 'In one go, over the props.' },
  { pen: 'points', label: 'Draw by points', purpose: 'Click by click.' },
  { pen: 'throw', label: 'Throw a line', purpose: 'From one place to another, with slack.' },
  { pen: 'string', label: 'String between things', purpose: 'Click one after the other.' },
  { pen: 'wheels', label: 'Click wheels', purpose: 'A belt runs round them.' },
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
