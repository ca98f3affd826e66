import { curveIdsOf, type DrawnPoint } from '@kelp/core';
import { Box, Button, MenuItem, Select, ToggleButton, ToggleButtonGroup, Typography } from '@mui/material';
import { useState } from 'react';
import { useAppDispatch, useAppSelector } from '../app/store.js';
import { NumberField } from '../fields/NumberField.js';
import { METRES } from '../fields/units.js';
import { movePoint } from '../pens/draw-edits.js';
import {
  deleteChosen,
  evenOutChosen,
  setChosen,
  smoothChosen,
  splitAt,
  straightenChosen,
  turnChosen,
} from '../pens/line-edits.js';
import { useSurroundings } from '../pens/surroundings.js';
import { gestureEnded } from '../state/project-slice.js';

/** The chosen points: what they share, what can be done to them, and the exact place of the last one. */
export function ChosenPoints() {
  const dispatch = useAppDispatch();
  const document = useAppSelector((state) => state.project.document);
  const places = useAppSelector((state) => state.view.points);
  const surroundings = useSurroundings();
  const last = places.at(-1);
  const curve = document?.curves.find(({ id }) => id === last?.curve);
  const point = last && curve?.points[last.index];
  if (!document || !last || !curve || !point) return null;
  const owner = document.pieces.find((piece) => curveIdsOf(piece).includes(last.curve));
  const all = places.flatMap(({ curve: id, index }) => {
    const found = document.curves.find((candidate) => candidate.id === id)?.points[index];
    return found ? [found] : [];
  });
  const factor = METRES[document.displayUnit];
  // a line keeps two points
  const shortLines = new Set(document.curves.filter(({ points }) => points.length <= 2).map(({ id }) => id));
  const gesture = `${last.curve} ${last.index} ${places.length}`;
  return (
    <Box sx={{ mt: 1, pt: 2, borderTop: 1, borderColor: 'divider' }}>
      <Typography variant="subtitle1" component="h3" gutterBottom>
        {places.length === 1 ? `Point ${last.index + 1} of ${curve.points.length}` : `${places.length} points selected`}
      </Typography>
      {places.length === 1 &&
        (['X', 'Y', 'Z'] as const).map((axis, k) => (
          <NumberField
            key={axis}
            label={axis}
            help={`${axis} of the point; typing a value detaches it from its prop.`}
            value={point.position[k]}
            min={-1e6}
            max={1e6}
            comfortable={[point.position[k] - 1, point.position[k] + 1]}
            initial={point.position[k]}
            shown={{ factor, unit: document.displayUnit, digits: 2 }}
            onChange={(value, done) =>
              dispatch(
                movePoint(
                  last,
                  { position: point.position.with(k, value) as [number, number, number] },
                  done ? undefined : `${gesture} ${axis}`,
                ),
              )
            }
          />
        ))}
      <ShareField
        label="Thickness"
        help="Thickness at these points, relative to the piece’s thickness."
        values={all.map(({ radius }) => radius)}
        min={1e-3}
        max={1000}
        comfortable={[0.2, 3]}
        initial={1}
        shown={{ factor: 1, unit: '×', digits: 3 }}
        onChange={(radius) => dispatch(setChosen(places, { radius }, surroundings(), `${gesture} radius`))}
      />
      <ShareField
        label="Roll"
        help="Rotation of the section at these points, added to the piece’s roll."
        values={all.map(({ roll }) => roll ?? 0)}
        min={-6000}
        max={6000}
        comfortable={[-Math.PI, Math.PI]}
        initial={0}
        shown={{ factor: Math.PI / 180, unit: '°', digits: 1 }}
        onChange={(roll) => dispatch(setChosen(places, { roll }, surroundings(), `${gesture} roll`))}
      />
      <ToggleButtonGroup
        exclusive
        value={shared(all.map(({ corner }) => corner))}
        onChange={(_event, corner) => corner !== null && dispatch(setChosen(places, { corner }, surroundings()))}
        aria-label="Point type"
        sx={{ my: 1 }}
      >
        <ToggleButton value={false}>Smooth</ToggleButton>
        <ToggleButton value={true}>Corner</ToggleButton>
      </ToggleButtonGroup>
      <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 1, my: 1 }}>
        {places.length > 2 && (
          <>
            <Act label="Smooth" onClick={() => dispatch(smoothChosen(places, surroundings()))} />
            <Act label="Straighten" onClick={() => dispatch(straightenChosen(places, surroundings()))} />
            <Act label="Even out" onClick={() => dispatch(evenOutChosen(places, surroundings()))} />
          </>
        )}
        {places.length === 1 && (
          <Act
            label={curve.closed ? 'Open here' : 'Split here'}
            disabled={!curve.closed && (last.index === 0 || last.index === curve.points.length - 1)}
            onClick={() => owner && dispatch(splitAt(owner.id, last))}
          />
        )}
        <Act
          label={places.length === 1 ? 'Delete point' : 'Delete points'}
          disabled={places.every(({ curve: id }) => shortLines.has(id))}
          onClick={() => dispatch(deleteChosen(places))}
        />
      </Box>
      {places.length === 1 && <TurnRest place={last} />}
      <Typography variant="body2" color="textSecondary" sx={{ mt: 1 }}>
        {holding(all, (id) => document.props.find((prop) => prop.id === id)?.name ?? 'a deleted prop')}
      </Typography>
    </Box>
  );
}

function Act({ label, disabled, onClick }: { label: string; disabled?: boolean; onClick(): void }) {
  return (
    <Button size="small" variant="outlined" color="inherit" disabled={disabled} onClick={onClick}>
      {label}
    </Button>
  );
}

/** The value all share, or undefined. */
const shared = <T,>(values: readonly T[]): T | undefined =>
  values.every((value) => value === values[0]) ? values[0] : undefined;

/** A number field over several points: says "mixed" while they differ; setting it sets all. */
function ShareField({
  values,
  label,
  onChange,
  ...field
}: Omit<Parameters<typeof NumberField>[0], 'value' | 'onChange'> & {
  values: readonly number[];
  onChange(value: number): void;
}) {
  const dispatch = useAppDispatch();
  const mixed = shared(values) === undefined;
  return (
    <NumberField
      {...field}
      label={mixed ? `${label}, mixed` : label}
      value={values.reduce((sum, value) => sum + value, 0) / values.length}
      onChange={(value, done) => {
        onChange(value);
        if (done) dispatch(gestureEnded());
      }}
    />
  );
}

const AXES = { up: [0, 1, 0], x: [1, 0, 0], z: [0, 0, 1] } as const;

/** Turns what follows a point, or what comes before it, as one rigid part. */
function TurnRest({ place }: { place: { curve: string; index: number } }) {
  const dispatch = useAppDispatch();
  const surroundings = useSurroundings();
  const [angle, setAngle] = useState(Math.PI / 12);
  const [axis, setAxis] = useState<keyof typeof AXES>('up');
  const turn = (which: 'after' | 'before') =>
    dispatch(turnChosen(place, which, [...AXES[axis]], angle, surroundings()));
  return (
    <Box sx={{ mt: 1 }}>
      <NumberField
        label="Rotation angle"
        help="Angle by which points beyond this one are rotated around it."
        value={angle}
        min={-Math.PI}
        max={Math.PI}
        comfortable={[-Math.PI / 2, Math.PI / 2]}
        initial={Math.PI / 12}
        shown={{ factor: Math.PI / 180, unit: '°', digits: 1 }}
        onChange={setAngle}
      />
      <Box sx={{ display: 'flex', gap: 1, alignItems: 'center' }}>
        <Select
          size="small"
          value={axis}
          onChange={(event) => setAxis(event.target.value as keyof typeof AXES)}
          inputProps={{ 'aria-label': 'Rotation axis' }}
          sx={{ '& .MuiSelect-select': { py: '3px' } }}
        >
          <MenuItem value="up">y</MenuItem>
          <MenuItem value="x">x</MenuItem>
          <MenuItem value="z">z</MenuItem>
        </Select>
        <Act label="Rotate following points" onClick={() => turn('after')} />
        <Act label="Rotate preceding points" onClick={() => turn('before')} />
      </Box>
    </Box>
  );
}

function holding(points: readonly DrawnPoint[], nameOf: (id: string) => string): string {
  const held = [...new Set(points.flatMap(({ anchor }) => (anchor ? [nameOf(anchor.prop)] : [])))];
  if (held.length === 0) return points.length === 1 ? 'Free' : 'All free';
  const free = points.some(({ anchor }) => !anchor);
  return `Held on ${held.join(', ')}${free ? '; some are free' : ''}`;
}
