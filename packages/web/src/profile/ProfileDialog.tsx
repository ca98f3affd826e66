import { type DisplayUnit, FORMS, type Form, formPaths, type Profile, tidyName } from '@kelp/core';
import Redo from '@mui/icons-material/Redo';
import Undo from '@mui/icons-material/Undo';
import {
  Box,
  Button,
  Dialog,
  DialogActions,
  DialogContent,
  DialogTitle,
  IconButton,
  MenuItem,
  Select,
  TextField,
  ToggleButton,
  ToggleButtonGroup,
  Typography,
} from '@mui/material';
import { type KeyboardEvent, useState } from 'react';
import { ControlRow } from '../fields/ControlRow.js';
import { NumberField } from '../fields/NumberField.js';
import { lengthText, METRES, type Shown } from '../fields/units.js';
import { Board } from './Board.js';
import {
  begun,
  bowed,
  boxOf,
  closedPath,
  inserted,
  mirrored,
  moved,
  type Place,
  type Spot,
  sharpened,
  sized,
  spaced,
  stretchFrom,
  without,
  withoutPath,
} from './profile-edits.js';
import { useSteps } from './use-steps.js';

/** Grids that points can be held to, metres. */
const GRIDS = [0, 0.0005, 0.001, 0.002, 0.005, 0.01] as const;
/** Sizes a profile may be typed to, metres. */
const SIZES = [1e-5, 100] as const;

/** Height of a ready-made section on an empty board, metres. */
const USUAL = 0.04;

export interface ProfileDialogProps {
  profile: Profile;
  /** It is one of the project's already: it can be deleted. */
  known: boolean;
  display: DisplayUnit;
  onDone(profile: Profile): void;
  onDelete(): void;
  onClose(): void;
}

/** Where a profile is drawn: points on a board, sharp or smooth, outlines and holes; with its own way back and forth. */
export function ProfileDialog({ profile, known, display, onDone, onDelete, onClose }: ProfileDialogProps) {
  const { paths, change, undo, redo, canUndo, canRedo } = useSteps(profile.paths);
  const [name, setName] = useState(profile.name);
  const [step, setStep] = useState<number>(0.001);
  const [chosen, setChosen] = useState<Spot | null>(null);
  const [drawing, setDrawing] = useState<number | null>(null);
  const [adding, setAdding] = useState(profile.paths.length === 0);
  const spot = chosen && paths[chosen.path]?.points[chosen.point] ? chosen : null;
  const point = spot && paths[spot.path].points[spot.point];
  const stretch = spot && stretchFrom(paths, spot);
  const box = boxOf(paths);
  const shown: Shown = { factor: METRES[display], unit: display, digits: display === 'm' || display === 'ft' ? 5 : 3 };
  const stop = () => {
    setDrawing(null);
    setAdding(false);
  };
  const place = (at: Place, first: boolean) => {
    if (first && drawing !== null) {
      change(closedPath(paths, drawing, true));
      return stop();
    }
    if (!adding) return setChosen(null);
    if (drawing === null || !paths[drawing]) {
      setDrawing(paths.length);
      setChosen({ path: paths.length, point: 0 });
      return change(begun(paths, at, true));
    }
    const last = paths[drawing].points.length - 1;
    setChosen({ path: drawing, point: last + 1 });
    change(inserted(paths, { path: drawing, point: last }, at, true));
  };
  const key = (event: KeyboardEvent) => {
    const isUndo = (event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'z';
    // the page's own way back must not run behind the board
    if (isUndo) {
      event.preventDefault();
      if (event.shiftKey) redo();
      else undo();
    } else if (event.key === 'Escape' && adding) stop();
    else if (event.key === 'Enter' && drawing !== null) stop();
    else return;
    event.stopPropagation();
  };
  const closed = paths.filter((path) => path.closed).length;
  const size = (width: number, height: number, done: boolean) => change(sized(paths, width, height), done);
  const number = (
    label: string,
    value: number,
    onChange: (value: number, done: boolean) => void,
    limits = SIZES as readonly [number, number],
  ) => (
    <NumberField
      label={label}
      help={label}
      value={value}
      min={limits[0]}
      max={limits[1]}
      comfortable={[Math.max(limits[0], -0.1), 0.1]}
      initial={value}
      narrow
      shown={shown}
      onChange={onChange}
    />
  );
  return (
    <Dialog
      open
      // a click beside the board must not throw away what was drawn
      onClose={(_event, reason) => reason !== 'backdropClick' && onClose()}
      maxWidth="lg"
      onKeyDown={key}
      aria-labelledby="profile-title"
    >
      <DialogTitle id="profile-title" sx={{ display: 'flex', alignItems: 'center' }}>
        Profile
        <Box sx={{ flex: 1 }} />
        <IconButton size="small" disabled={!canUndo} onClick={undo} aria-label="Undo on the board">
          <Undo fontSize="small" />
        </IconButton>
        <IconButton size="small" disabled={!canRedo} onClick={redo} aria-label="Redo on the board">
          <Redo fontSize="small" />
        </IconButton>
      </DialogTitle>
      <DialogContent sx={{ display: 'grid', gridTemplateColumns: '600px 270px', gap: 5 }}>
        <Box>
          <Board
            paths={paths}
            step={step}
            chosen={spot}
            drawing={adding ? (drawing ?? -1) : null}
            onChoose={setChosen}
            onChange={change}
            onPlace={place}
          />
          <Typography variant="body2" color="textSecondary" sx={{ mt: 1 }}>
            {adding
              ? 'Click to add points; click the first one to close the outline. Esc leaves it open.'
              : 'Drag points; double-click a point to toggle sharp or smooth, or an outline to insert one. Inner outlines are holes.'}
          </Typography>
        </Box>
        <Box>
          <TextField
            label="Name"
            size="small"
            fullWidth
            value={name}
            onChange={(event) => setName(event.target.value)}
            sx={{ mt: 2, mb: 3 }}
          />
          <ControlRow label="Template" help="Ready-made section that replaces what is on the board.">
            <Select
              size="small"
              fullWidth
              displayEmpty
              value=""
              renderValue={() => 'Choose…'}
              onChange={(event) => {
                const height = box && box.top > box.bottom ? box.top - box.bottom : USUAL;
                setChosen(null);
                stop();
                change(formPaths(event.target.value as Form, height));
              }}
              inputProps={{ 'aria-label': 'Template' }}
              sx={{ '& .MuiSelect-select': { py: '4px' } }}
            >
              {FORMS.map(({ value, label }) => (
                <MenuItem key={value} value={value}>
                  {label}
                </MenuItem>
              ))}
            </Select>
          </ControlRow>
          {box && number('Width', box.right - box.left, (value, done) => size(value, box.top - box.bottom, done))}
          {box && number('Height', box.top - box.bottom, (value, done) => size(box.right - box.left, value, done))}
          <ControlRow label="Grid" help="Snaps points while dragging; hold Alt to turn off.">
            <Select
              size="small"
              fullWidth
              value={step}
              onChange={(event) => setStep(Number(event.target.value))}
              inputProps={{ 'aria-label': 'Grid' }}
              sx={{ '& .MuiSelect-select': { py: '4px' } }}
            >
              {GRIDS.map((grid) => (
                <MenuItem key={grid} value={grid}>
                  {grid === 0 ? 'None' : lengthText(grid, display)}
                </MenuItem>
              ))}
            </Select>
          </ControlRow>
          <Box sx={{ display: 'flex', gap: 2, my: 2 }}>
            <Button
              size="small"
              variant={adding ? 'contained' : 'outlined'}
              color="inherit"
              onClick={() => (adding ? stop() : setAdding(true))}
              aria-pressed={adding}
            >
              Draw an outline
            </Button>
            <Button size="small" variant="outlined" color="inherit" onClick={() => change(mirrored(paths))}>
              Mirror the left
            </Button>
          </Box>
          {spot && point ? (
            <>
              <Typography variant="subtitle1" component="h3">
                Point {spot.point + 1} of {paths[spot.path].points.length}
              </Typography>
              {number('X', point.x, (x, done) => change(moved(paths, spot, [x, point.y]), done), [-100, 100])}
              {number('Y', point.y, (y, done) => change(moved(paths, spot, [point.x, y]), done), [-100, 100])}
              {stretch && number('To next', stretch.length, (value, done) => change(spaced(paths, spot, value), done))}
              {stretch &&
                number('Bulge', stretch.bow, (value, done) => change(bowed(paths, spot, value), done), [-100, 100])}
              <ToggleButtonGroup
                exclusive
                fullWidth
                size="small"
                value={point.corner}
                onChange={(_event, corner) => corner !== null && change(sharpened(paths, spot, corner))}
                aria-label="Point shape"
                sx={{ my: 1 }}
              >
                <ToggleButton value={true}>Sharp</ToggleButton>
                <ToggleButton value={false}>Smooth</ToggleButton>
              </ToggleButtonGroup>
              <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 1 }}>
                <Button size="small" color="inherit" onClick={() => change(without(paths, spot))}>
                  Delete point
                </Button>
                <Button
                  size="small"
                  color="inherit"
                  disabled={paths[spot.path].points.length < 3}
                  onClick={() => change(closedPath(paths, spot.path, !paths[spot.path].closed))}
                >
                  {paths[spot.path].closed ? 'Open outline' : 'Close outline'}
                </Button>
                <Button size="small" color="inherit" onClick={() => change(withoutPath(paths, spot.path))}>
                  Delete outline
                </Button>
              </Box>
            </>
          ) : (
            <Typography variant="body2" color="textSecondary">
              {closed === 0
                ? 'No outline is closed: the sweep is an open sheet without end caps.'
                : 'Select a point to type its position.'}
            </Typography>
          )}
        </Box>
      </DialogContent>
      <DialogActions>
        {known && (
          <Button color="inherit" onClick={onDelete} sx={{ mr: 'auto' }}>
            Delete profile
          </Button>
        )}
        <Button color="inherit" onClick={onClose}>
          Cancel
        </Button>
        <Button variant="contained" onClick={() => onDone({ ...profile, name: tidyName(name, 'Profile'), paths })}>
          Done
        </Button>
      </DialogActions>
    </Dialog>
  );
}
