import { Box, Button, ToggleButton, ToggleButtonGroup, Tooltip, Typography } from '@mui/material';
import { useAppDispatch, useAppSelector } from '../app/store.js';
import { type Look, lookChanged, type Pen, penTaken } from '../state/view-slice.js';
import { COLOURS } from '../theme/colours.js';

const PENS: { value: Pen; label: string; help: string }[] = [
  { value: 'stroke', label: 'Stroke', help: 'Press, draw over the props, let go. (S)' },
  {
    value: 'points',
    label: 'Points',
    help: 'Click point by point; Enter or a double-click ends the line, a click on the first point closes it. (P)',
  },
];

/** The pens, at the top left of the view. */
export function PenBar() {
  const dispatch = useAppDispatch();
  const pen = useAppSelector((state) => state.view.pen);
  return (
    <ToggleButtonGroup
      exclusive
      value={pen}
      onChange={(_event, next: Pen | null) => dispatch(penTaken(next))}
      aria-label="Pens"
      sx={{ position: 'absolute', left: 12, top: 12 }}
    >
      {PENS.map(({ value, label, help }) => (
        <ToggleButton
          key={value}
          value={value}
          sx={{ '&.Mui-selected, &.Mui-selected:hover': { backgroundColor: COLOURS.tide } }}
        >
          <Tooltip title={help}>
            <span>{label}</span>
          </Tooltip>
        </ToggleButton>
      ))}
    </ToggleButtonGroup>
  );
}

const LOOKS: { value: Look; label: string }[] = [
  { value: 'form', label: 'Form' },
  { value: 'dressed', label: 'Dressed' },
  { value: 'mesh', label: 'Mesh' },
];

/** How the view is looked at, at its top right. */
export function LookBar({ onFrame }: { onFrame(): void }) {
  const dispatch = useAppDispatch();
  const look = useAppSelector((state) => state.view.look);
  return (
    <Box sx={{ position: 'absolute', right: 12, top: 12, display: 'flex', gap: 2 }}>
      <Tooltip title="Bring everything, or what is chosen, into view (F)">
        <Button variant="outlined" color="inherit" onClick={onFrame} sx={{ minWidth: 0 }}>
          Frame
        </Button>
      </Tooltip>
      <ToggleButtonGroup
        exclusive
        value={look}
        onChange={(_event, next: Look | null) => next && dispatch(lookChanged(next))}
        aria-label="Look"
      >
        {LOOKS.map(({ value, label }) => (
          <ToggleButton key={value} value={value}>
            {label}
          </ToggleButton>
        ))}
      </ToggleButtonGroup>
    </Box>
  );
}

/** The first thing to do, while there is nothing; what the pen waits for, while one is in hand. */
export function Hint() {
  const document = useAppSelector((state) => state.project.document);
  const pen = useAppSelector((state) => state.view.pen);
  if (!document) return null;
  const text =
    pen === 'stroke'
      ? 'Press on a prop and draw. Right button turns the view, Escape puts the pen away.'
      : pen === 'points'
        ? 'Click point by point. Enter ends, Backspace takes the last back, Escape puts the pen away.'
        : document.props.length === 0 && document.pieces.length === 0
          ? 'Drop a .glb or .obj file here to draw on, or take a pen and draw on the ground.'
          : document.pieces.length === 0
            ? 'Take the Stroke pen and draw a line on a prop: a cable follows it.'
            : null;
  return (
    text && (
      <Typography
        sx={{
          position: 'absolute',
          bottom: 18,
          left: '50%',
          transform: 'translateX(-50%)',
          background: `${COLOURS.panel}ee`,
          border: 1,
          borderColor: 'divider',
          borderRadius: '3px',
          px: 3,
          py: 1.5,
          pointerEvents: 'none',
          maxWidth: '60%',
          textAlign: 'center',
        }}
      >
        {text}
      </Typography>
    )
  );
}
