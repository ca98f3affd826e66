import {
  Box,
  Button,
  Menu,
  MenuItem,
  Select,
  Slider,
  ToggleButton,
  ToggleButtonGroup,
  Tooltip,
  Typography,
} from '@mui/material';
import { memo, useState } from 'react';
import { useAppDispatch, useAppSelector } from '../app/store.js';
import {
  type DrawingPlane,
  type Look,
  lookChanged,
  type Pen,
  penTaken,
  planeChosen,
  ropeSet,
  targetLocked,
} from '../state/view-slice.js';
import { COLOURS } from '../theme/colours.js';

const PENS: { value: Pen; label: string; help: string }[] = [
  { value: 'stroke', label: 'Stroke', help: 'Press, draw over the props, release. (S)' },
  {
    value: 'points',
    label: 'Points',
    help: 'Click to add points; Enter or a double-click ends the line, clicking the first point closes it. (P)',
  },
  {
    value: 'throw',
    label: 'Throw',
    help: 'Press at one end, release at the other, then move to add slack and swing. (T)',
  },
  {
    value: 'string',
    label: 'String',
    help: 'Click things in order: a line hangs from each to the next. (G)',
  },
  {
    value: 'wheels',
    label: 'Wheels',
    help: 'Click wheel positions in order: a belt runs around them. (W)',
  },
];

/** The pens and what the one in hand is set to; the settings go under the pens where there is no room beside them. */
export const PenBar = memo(function PenBar() {
  const dispatch = useAppDispatch();
  const pen = useAppSelector((state) => state.view.pen);
  return (
    <Box sx={{ flex: '1 1 170px', display: 'flex', flexWrap: 'wrap', alignItems: 'flex-start', gap: 2 }}>
      <ToggleButtonGroup
        exclusive
        value={pen}
        onChange={(_event, next: Pen | null) => dispatch(penTaken(next))}
        aria-label="Pens"
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
      {pen && <PenChoices pen={pen} />}
    </Box>
  );
});

/** What the pen in hand is set to: the prop it feels, and how long its rope is. */
function PenChoices({ pen }: { pen: Pen }) {
  const dispatch = useAppDispatch();
  const { target, rope, plane } = useAppSelector((state) => state.view);
  const props = useAppSelector((state) => state.project.document?.props) ?? [];
  return (
    <>
      <Tooltip title="Draw on any prop, or on one only" describeChild>
        <Select
          size="small"
          displayEmpty
          value={target ?? ''}
          onChange={(event) => dispatch(targetLocked(event.target.value || null))}
          inputProps={{ 'aria-label': 'Drawing target' }}
          sx={{ bgcolor: 'background.paper', '& .MuiSelect-select': { py: '3px' }, maxWidth: 150 }}
        >
          <MenuItem value="">On any prop</MenuItem>
          {props
            .filter((prop) => prop.visible)
            .map((prop) => (
              <MenuItem key={prop.id} value={prop.id}>
                Only {prop.name}
              </MenuItem>
            ))}
        </Select>
      </Tooltip>
      {pen !== 'throw' && (
        <Tooltip title="Plane used where no prop is under the pointer" describeChild>
          <Select
            size="small"
            value={plane}
            onChange={(event) => dispatch(planeChosen(event.target.value as DrawingPlane))}
            inputProps={{ 'aria-label': 'Drawing plane' }}
            sx={{ bgcolor: 'background.paper', '& .MuiSelect-select': { py: '3px' } }}
          >
            <MenuItem value="ground">Ground plane</MenuItem>
            <MenuItem value="front">Front plane</MenuItem>
            <MenuItem value="side">Side plane</MenuItem>
          </Select>
        </Tooltip>
      )}
      {pen === 'stroke' && (
        <Tooltip title="Stabiliser length: longer makes steadier strokes" describeChild>
          <Box
            sx={{
              width: 128,
              px: 3,
              display: 'flex',
              alignItems: 'center',
              gap: 2,
              bgcolor: 'background.paper',
              border: 1,
              borderColor: 'divider',
              borderRadius: '3px',
            }}
          >
            <Typography variant="body2">Stabiliser</Typography>
            <Slider
              size="small"
              value={rope}
              min={0}
              max={60}
              aria-label="Stabiliser length, pixels"
              onChange={(_event, next) => dispatch(ropeSet(next as number))}
            />
          </Box>
        </Tooltip>
      )}
    </>
  );
}

const LOOKS: { value: Look; label: string }[] = [
  { value: 'form', label: 'Form' },
  { value: 'dressed', label: 'Dressed' },
  { value: 'mesh', label: 'Mesh' },
  { value: 'checker', label: 'Checker' },
];

/** Sizes of a saved picture, pixels across. */
const PICTURES = [1280, 1920, 3840];

export const LookBar = memo(function LookBar({
  onFrame,
  onPicture,
}: {
  onFrame(): void;
  onPicture(width: number): void;
}) {
  const dispatch = useAppDispatch();
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const look = useAppSelector((state) => state.view.look);
  return (
    <Box sx={{ display: 'flex', gap: 2, ml: 'auto' }}>
      <Tooltip title="Frame all, or the selection (F)">
        <Button variant="outlined" color="inherit" onClick={onFrame} sx={{ minWidth: 0 }}>
          Frame
        </Button>
      </Tooltip>
      <Tooltip title="Save the view as a PNG image" describeChild>
        <Button
          variant="outlined"
          color="inherit"
          aria-haspopup="menu"
          onClick={(event) => setAnchor(event.currentTarget)}
          sx={{ minWidth: 0 }}
        >
          Image…
        </Button>
      </Tooltip>
      <Menu anchorEl={anchor} open={anchor !== null} onClose={() => setAnchor(null)}>
        {PICTURES.map((width) => (
          <MenuItem
            key={width}
            onClick={() => {
              setAnchor(null);
              onPicture(width);
            }}
          >
            {width} pixels wide
          </MenuItem>
        ))}
      </Menu>
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
});

/** The first thing to do, while there is nothing; what the pen waits for, while one is in hand. */
export const Hint = memo(function Hint() {
  const props = useAppSelector((state) => state.project.document?.props.length);
  const pieces = useAppSelector((state) => state.project.document?.pieces.length);
  const pen = useAppSelector((state) => state.view.pen);
  if (props === undefined) return null;
  const text =
    pen === 'stroke'
      ? 'Press on a prop and draw; scroll to change the thickness. Alt turns off snapping. The right button orbits.'
      : pen === 'points'
        ? 'Click to add points; scroll to change the thickness. Enter ends, Backspace removes the last, Esc closes the pen.'
        : pen === 'throw'
          ? 'Press at one end, release at the other. Move down for slack, sideways to swing; B finds the smallest bow without contact; click to finish.'
          : pen === 'string'
            ? 'Click things in order: each line is fastened to the top, or with Shift to the exact point. Enter or Esc ends.'
            : pen === 'wheels'
              ? 'Click wheel positions in belt order. Enter or Esc ends; then drag centres and rims.'
              : props === 0 && pieces === 0
                ? 'Drop a .glb or .obj file here to draw on, or choose a pen and draw on the ground.'
                : pieces === 0
                  ? 'Choose the Stroke pen and draw a line on a prop: a cable follows it.'
                  : null;
  return (
    text && (
      <Typography
        sx={{
          position: 'absolute',
          // over the scale bar, however narrow the view is
          bottom: 52,
          left: '50%',
          transform: 'translateX(-50%)',
          // and over the figures of the rings
          zIndex: 4,
          background: COLOURS.panel,
          border: 1,
          borderColor: 'divider',
          borderRadius: '3px',
          px: 3,
          py: 1.5,
          pointerEvents: 'none',
          // from the middle there is half the view to the right: the box takes what its words need
          width: 'max-content',
          maxWidth: '72%',
          textWrap: 'balance',
          textAlign: 'center',
        }}
      >
        {text}
      </Typography>
    )
  );
});
