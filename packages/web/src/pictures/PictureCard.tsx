import type { Picture } from '@kelp/core';
import { Box, Button, FormControlLabel, Switch, ToggleButton, ToggleButtonGroup, Typography } from '@mui/material';
import { useState } from 'react';
import { useAppDispatch, useAppSelector } from '../app/store.js';
import { NameField } from '../fields/NameField.js';
import { NumberField } from '../fields/NumberField.js';
import { lengthText, METRES } from '../fields/units.js';
import { gestureEnded } from '../state/project-slice.js';
import { pictureChosen } from '../state/view-slice.js';
import { changePicture, deletePicture } from './picture-edits.js';
import { SizeByPoints } from './SizeByPoints.js';

const PLANES: { value: Picture['plane']; label: string }[] = [
  { value: 'front', label: 'Front' },
  { value: 'side', label: 'Side' },
  { value: 'top', label: 'Top' },
];

/** A reference picture: its plane, place and size, how strongly it shows, and whether clicks pass through it. */
export function PictureCard({ picture }: { picture: Picture }) {
  const dispatch = useAppDispatch();
  const display = useAppSelector((state) => state.project.document?.displayUnit ?? 'mm');
  const [sizing, setSizing] = useState(false);
  const change = (label: string, update: (old: Picture) => Picture, done = true) => {
    dispatch(changePicture(picture.id, `${label} of ${picture.name}`, update, `${picture.id} ${label}`));
    if (done) dispatch(gestureEnded());
  };
  const length = { factor: METRES[display], unit: display, digits: 1 };
  return (
    <Box sx={{ p: 3.5 }}>
      <NameField
        value={picture.name}
        label="Image name"
        onChange={(name) => change('Name', (old) => ({ ...old, name }))}
      />
      <Typography className="number" color="textSecondary" gutterBottom>
        {lengthText(picture.width, display)} × {lengthText(picture.width * picture.aspect, display)}
      </Typography>
      <ToggleButtonGroup
        exclusive
        value={picture.plane}
        onChange={(_event, plane) => plane && change('Plane', (old) => ({ ...old, plane }))}
        aria-label="Plane of the picture"
        sx={{ my: 1 }}
      >
        {PLANES.map(({ value, label }) => (
          <ToggleButton key={value} value={value}>
            {label}
          </ToggleButton>
        ))}
      </ToggleButtonGroup>
      {(['X', 'Y', 'Z'] as const).map((axis, k) => (
        <NumberField
          key={axis}
          label={`Position ${axis}`}
          help="Position of the image’s centre."
          value={picture.position[k]}
          min={-1e5}
          max={1e5}
          comfortable={[-5, 5]}
          initial={0}
          shown={length}
          onChange={(value, done) =>
            change(
              `Position ${axis}`,
              (old) => ({ ...old, position: old.position.with(k, value) as Picture['position'] }),
              done,
            )
          }
        />
      ))}
      <NumberField
        label="Width"
        help="Width of the image in the scene."
        value={picture.width}
        min={1e-4}
        max={1e5}
        comfortable={[0.1, 10]}
        initial={2}
        shown={length}
        onChange={(width, done) => change('Width', (old) => ({ ...old, width }), done)}
      />
      <NumberField
        label="Opacity"
        help="Opacity of the image; 0 hides it."
        value={picture.opacity}
        min={0}
        max={1}
        comfortable={[0, 1]}
        initial={0.8}
        shown={{ factor: 0.01, unit: '%', digits: 0 }}
        onChange={(opacity, done) => change('Opacity', (old) => ({ ...old, opacity }), done)}
      />
      <FormControlLabel
        control={
          <Switch
            size="small"
            checked={picture.locked}
            onChange={(_event, locked) => change('Lock', (old) => ({ ...old, locked }))}
          />
        }
        label="Lock against clicks"
      />
      <Box sx={{ display: 'flex', gap: 2, mt: 2 }}>
        <Button variant="outlined" color="inherit" onClick={() => setSizing(true)}>
          Set size by two points…
        </Button>
        <Button
          color="inherit"
          onClick={() => {
            dispatch(deletePicture(picture.id, picture.name));
            dispatch(pictureChosen(null));
          }}
        >
          Delete
        </Button>
      </Box>
      {sizing && <SizeByPoints picture={picture} onClose={() => setSizing(false)} />}
    </Box>
  );
}
