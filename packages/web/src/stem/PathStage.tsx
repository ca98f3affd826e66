import type { Piece } from '@kelp/core';
import { Box, Button, FormControlLabel, Switch, ToggleButton, ToggleButtonGroup, Typography } from '@mui/material';
import { useAppDispatch, useAppSelector } from '../app/store.js';
import { NumberField } from '../fields/NumberField.js';
import { METRES } from '../fields/units.js';
import { deletePoint, movePoint, setCurveClosed, setPointCorner } from '../pens/draw-edits.js';
import { penTaken } from '../state/view-slice.js';
import { UnitParameters } from './UnitParameters.js';

/** Where the piece runs: its curves, and the chosen point with its exact place. */
export function PathStage({ piece }: { piece: Piece }) {
  const dispatch = useAppDispatch();
  const document = useAppSelector((state) => state.project.document);
  const chosen = useAppSelector((state) => state.view.point);
  const ids = (piece.path.parameters['curves'] as string[] | undefined) ?? [];
  const curves = document?.curves.filter((curve) => ids.includes(curve.id)) ?? [];
  return (
    <>
      <UnitParameters piece={piece} place={{ stage: 'path' }} use={piece.path} />
      {curves.length === 0 && (
        <Button variant="outlined" color="secondary" onClick={() => dispatch(penTaken('stroke'))}>
          Draw a line
        </Button>
      )}
      {curves.map((curve) => (
        <FormControlLabel
          key={curve.id}
          control={
            <Switch
              size="small"
              checked={curve.closed}
              disabled={curve.points.length < 3}
              onChange={(_event, closed) => dispatch(setCurveClosed(curve.id, closed))}
            />
          }
          label={`${curve.name}: ${curve.points.length} points, ${curve.closed ? 'closed' : 'open'}`}
        />
      ))}
      {chosen ? (
        <ChosenPoint />
      ) : (
        <Typography variant="body2" color="textSecondary" sx={{ mt: 1 }}>
          Drag a ring in the view to move a point; double-click the line to put one in.
        </Typography>
      )}
    </>
  );
}

function ChosenPoint() {
  const dispatch = useAppDispatch();
  const document = useAppSelector((state) => state.project.document);
  const place = useAppSelector((state) => state.view.point);
  const curve = document?.curves.find((candidate) => candidate.id === place?.curve);
  const point = place && curve?.points[place.index];
  if (!document || !place || !curve || !point) return null;
  const factor = METRES[document.displayUnit];
  return (
    <Box sx={{ mt: 2 }}>
      <Typography variant="subtitle1" gutterBottom>
        Point {place.index + 1} of {curve.points.length}
      </Typography>
      {(['X', 'Y', 'Z'] as const).map((axis, k) => (
        <NumberField
          key={axis}
          label={axis}
          help={`${axis} of the point; typing it lets go of the prop.`}
          value={point.position[k]}
          min={-1e6}
          max={1e6}
          comfortable={[point.position[k] - 1, point.position[k] + 1]}
          initial={point.position[k]}
          shown={{ factor, unit: document.displayUnit, digits: 2 }}
          onChange={(value, done) =>
            dispatch(
              movePoint(
                place,
                { position: point.position.with(k, value) as [number, number, number] },
                done ? undefined : `${place.curve} ${place.index} ${axis}`,
              ),
            )
          }
        />
      ))}
      <Box sx={{ display: 'flex', gap: 2, mt: 1 }}>
        <ToggleButtonGroup
          exclusive
          value={point.corner}
          onChange={(_event, corner) => corner !== null && dispatch(setPointCorner(place, corner))}
          aria-label="Kind of point"
        >
          <ToggleButton value={false}>Smooth</ToggleButton>
          <ToggleButton value={true}>Corner</ToggleButton>
        </ToggleButtonGroup>
        <Button
          variant="outlined"
          color="inherit"
          disabled={curve.points.length <= 2}
          onClick={() => dispatch(deletePoint(place))}
        >
          Delete point
        </Button>
      </Box>
      <Typography variant="body2" color="textSecondary" sx={{ mt: 1 }}>
        {point.anchor
          ? `Held on ${document.props.find((prop) => prop.id === point.anchor?.prop)?.name ?? 'a deleted prop'}`
          : 'Stands free'}
      </Typography>
    </Box>
  );
}
