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
  { value: 'stroke', label: 'Stroke', help: 'Press, draw over the props, let go. (S)' },
  {
    value: 'points',
    label: 'Points',
    help: 'Click point by point; Enter or a double-click ends the line, a click on the first point closes it. (P)',
  },
  {
    value: 'throw',
    label: 'Throw',
    help: 'Press at one end, let go at the other, then pay out slack and swing it. (T)',
  },
  {
    value: 'string',
    label: 'String',
    help: 'Click things one after the other: a line hangs from each to the next. (G)',
  },
  {
    value: 'wheels',
    label: 'Wheels',
    help: 'Click where wheels stand, one after the other: a belt runs round them. (W)',
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
      <Tooltip title="The pen feels whatever is under it, or one prop alone" describeChild>
        <Select
          size="small"
          displayEmpty
          value={target ?? ''}
          onChange={(event) => dispatch(targetLocked(event.target.value || null))}
          inputProps={{ 'aria-label': 'What the pen feels' }}
          sx={{ bgcolor: 'background.paper', '& .MuiSelect-select': { py: '3px' }, maxWidth: 150 }}
        >
          <MenuItem value="">On anything</MenuItem>
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
        <Tooltip title="Where the pen draws when no prop is under it" describeChild>
          <Select
            size="small"
            value={plane}
            onChange={(event) => dispatch(planeChosen(event.target.value as DrawingPlane))}
            inputProps={{ 'aria-label': 'Drawing plane' }}
            sx={{ bgcolor: 'background.paper', '& .MuiSelect-select': { py: '3px' } }}
          >
            <MenuItem value="ground">Else on the ground</MenuItem>
            <MenuItem value="front">Else upright, facing front</MenuItem>
            <MenuItem value="side">Else upright, facing the side</MenuItem>
          </Select>
        </Tooltip>
      )}
      {pen === 'stroke' && (
        <Tooltip title="Length of the rope the hand pulls: longer is steadier" describeChild>
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
            <Typography variant="body2">Rope</Typography>
            <Slider
              size="small"
              value={rope}
              min={0}
              max={60}
              aria-label="Length of the rope, pixels"
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
      <Tooltip title="Bring everything, or what is chosen, into view (F)">
        <Button variant="outlined" color="inherit" onClick={onFrame} sx={{ minWidth: 0 }}>
          Frame
        </Button>
      </Tooltip>
      <Tooltip title="Save what is seen as a PNG file" describeChild>
        <Button
          variant="outlined"
          color="inherit"
          aria-haspopup="menu"
          onClick={(event) => setAnchor(event.currentTarget)}
          sx={{ minWidth: 0 }}
        >
          Picture…
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
            {width} pixels across
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
      ? 'Press on a prop and draw; the wheel makes it thicker. Alt lets go of edges and points. Right button turns the view.'
      : pen === 'points'
        ? 'Click point by point; the wheel makes it thicker. Enter ends, Backspace takes the last back, Escape puts the pen away.'
        : pen === 'throw'
          ? 'Press at one end, let go at the other. Then down pays out, sideways swings, B finds the least bow that is clear, a click keeps.'
          : pen === 'string'
            ? 'Click things one after the other: each is fastened to at its top, with Shift at the very place. Enter or Escape ends.'
            : pen === 'wheels'
              ? 'Click where wheels stand, in the order in which the belt meets them. Enter or Escape ends; then drag middles and rims.'
              : props === 0 && pieces === 0
                ? 'Drop a .glb or .obj file here to draw on, or take a pen and draw on the ground.'
                : pieces === 0
                  ? 'Take the Stroke pen and draw a line on a prop: a cable follows it.'
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
