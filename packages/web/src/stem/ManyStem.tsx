import { findUnit, isApplicable, type KelpDocument, type Piece } from '@kelp/core';
import { Box, Button, Typography } from '@mui/material';
import { useAppDispatch, useAppSelector } from '../app/store.js';
import { useComputed } from '../evaluation/EvaluationProvider.js';
import { ParameterControl, type ParameterControlProps } from '../fields/ParameterControl.js';
import { countText, lengthText } from '../fields/units.js';
import { deletePieces, lockPieces, showPieces, wordsFor } from '../manifest/piece-edits.js';
import { edit } from '../state/edits.js';
import { gestureEnded } from '../state/project-slice.js';
import { BakeFields } from './BakeFields.js';
import { ChosenPoints } from './ChosenPoints.js';
import { isMixed, type SharedUse, sharedUses } from './shared-uses.js';
import { asItIs, withSet } from './with-set.js';

/** Several pieces at once: what all of them have, each number once. One that differs says so; setting it sets all. */
export function ManyStem({ pieces }: { pieces: readonly Piece[] }) {
  const dispatch = useAppDispatch();
  const display = useAppSelector((state) => state.project.document?.displayUnit ?? 'mm');
  const points = useAppSelector((state) => state.view.points);
  const builds = useComputed('builds');
  const free = pieces.filter(({ locked }) => !locked);
  const shared = sharedUses(free);
  const sum = (of: 'length' | 'triangles') =>
    pieces.reduce((total, { id }) => total + (builds.get(id)?.measures[of] ?? 0), 0);
  const visible = pieces.some((piece) => piece.visible);
  return (
    <>
      <Box sx={{ p: 3.5, pb: 2 }}>
        <Typography variant="h2">{pieces.length} pieces</Typography>
        <Typography className="number" color="textSecondary">
          {lengthText(sum('length'), display)} · {countText(sum('triangles'))} tri
        </Typography>
        <Box sx={{ display: 'flex', gap: 2, mt: 2 }}>
          <Button variant="outlined" color="inherit" onClick={() => dispatch(showPieces(pieces, !visible))}>
            {visible ? 'Hide' : 'Show'}
          </Button>
          <Button variant="outlined" color="inherit" onClick={() => dispatch(lockPieces(pieces, free.length > 0))}>
            {free.length > 0 ? 'Lock' : 'Unlock'}
          </Button>
          <Button
            variant="outlined"
            color="inherit"
            disabled={free.length === 0}
            onClick={() => dispatch(deletePieces(pieces))}
          >
            Delete
          </Button>
        </Box>
        <Typography variant="body2" color="textSecondary" sx={{ mt: 2 }}>
          {free.length === 0
            ? 'All are locked.'
            : free.length < pieces.length
              ? `${pieces.length - free.length} locked and unchanged. Values set here apply to the others.`
              : 'Values set here apply to all of them.'}
        </Typography>
      </Box>
      {points.length > 0 && (
        <Box component="section" aria-label="Points" sx={{ px: 3.5 }}>
          <ChosenPoints />
        </Box>
      )}
      {shared.map((use) => (
        <SharedControls key={`${use.stage} ${use.unit}`} shared={use} />
      ))}
      {free.length > 0 && (
        <Box component="section" aria-label="Bake" sx={{ px: 3.5, py: 1 }}>
          <BakeFields pieces={free} />
        </Box>
      )}
    </>
  );
}

/** The controls of one unit, for all pieces that have it. */
function SharedControls({ shared }: { shared: SharedUse }) {
  const dispatch = useAppDispatch();
  const display = useAppSelector((state) => state.project.document?.displayUnit ?? 'mm');
  const unit = findUnit(shared.unit);
  const [{ use }] = shared.in;
  if (!unit) return null;
  const pieces = shared.in.map(({ piece }) => piece);
  const change =
    (name: string, label: string): ParameterControlProps['onChange'] =>
    (value, done, also = asItIs) => {
      const places = new Map(shared.in.map(({ piece, place }) => [piece.id, place]));
      const all = (document: KelpDocument) => {
        const changed = also(document);
        const set = (now: Piece) => {
          const place = places.get(now.id);
          return place ? withSet(changed, now, place, name, value) : now;
        };
        return { ...changed, pieces: changed.pieces.map(set) };
      };
      dispatch(edit(`${label} of ${wordsFor(pieces)}`, all, `many ${shared.stage} ${shared.unit} ${name}`));
      if (done) dispatch(gestureEnded());
    };
  // lines and places are each piece's own
  const listed = Object.entries(unit.parameters).filter(
    ([, parameter]) =>
      !['curves', 'point', 'piece'].includes(parameter.kind) &&
      shared.in.every((one) => isApplicable(parameter, one.use.parameters)),
  );
  if (listed.length === 0) return null;
  return (
    <Box component="section" aria-label={unit.label} sx={{ px: 3.5, py: 1 }}>
      <Typography variant="subtitle1" component="h3" sx={{ mb: 1 }}>
        {unit.label}
      </Typography>
      {listed.map(([name, parameter]) => (
        <ParameterControl
          key={name}
          name={name}
          parameter={parameter}
          value={use.parameters[name]}
          mixed={isMixed(shared, name)}
          display={display}
          onChange={change(name, parameter.label)}
        />
      ))}
    </Box>
  );
}
