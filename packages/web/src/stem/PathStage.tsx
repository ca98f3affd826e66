import { curveIdsOf, type DrawnCurve, findUnit, type Piece, unitsOf } from '@kelp/core';
import ContentCopy from '@mui/icons-material/ContentCopy';
import SwapHoriz from '@mui/icons-material/SwapHoriz';
import { Box, Button, IconButton, MenuItem, Select, Switch, Tooltip, Typography } from '@mui/material';
import { useAppDispatch, useAppSelector } from '../app/store.js';
import { useEvaluation } from '../evaluation/EvaluationProvider.js';
import { setCurveClosed } from '../pens/draw-edits.js';
import { chooseLines, duplicateLine, joinLines, reverseCurves } from '../pens/line-edits.js';
import { useSurroundings } from '../pens/surroundings.js';
import { penTakenInto } from '../state/view-slice.js';
import { LinkCard } from '../strung/LinkCard.js';
import { ChosenPoints } from './ChosenPoints.js';
import { setPathUnit } from './new-piece.js';
import { UnitParameters } from './UnitParameters.js';
import { WatchButton } from './WatchButton.js';

/** Where the piece runs: the source of its curves, the curves, and what is done to the chosen points. */
export function PathStage({ piece }: { piece: Piece }) {
  const dispatch = useAppDispatch();
  const evaluation = useEvaluation();
  /** Where the piece begins now: a new path begins there too. */
  const beginning = () => {
    const first = evaluation.current().builds.get(piece.id)?.guide.position;
    return first && first.length > 2 ? ([first[0], first[1], first[2]] as const) : undefined;
  };
  return (
    <>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 1, mb: 1 }}>
        <Tooltip title={findUnit(piece.path.unit)?.purpose ?? ''} placement="left">
          <Select
            size="small"
            fullWidth
            value={piece.path.unit}
            onChange={(event) => dispatch(setPathUnit(piece, event.target.value, beginning()))}
            inputProps={{ 'aria-label': 'Path source' }}
            sx={{ '& .MuiSelect-select': { py: '4px', fontWeight: 600 } }}
          >
            {unitsOf('path').map((unit) => (
              <MenuItem key={unit.id} value={unit.id}>
                {unit.label}
              </MenuItem>
            ))}
          </Select>
        </Tooltip>
        <WatchButton stage={0} label="Show the line before shaping" />
      </Box>
      {findUnit(piece.path.unit)?.byHand ? (
        <DrawnLines piece={piece} />
      ) : (
        <>
          <UnitParameters piece={piece} place={{ stage: 'path' }} use={piece.path} />
          {hasLinks(piece) && <LinkCard piece={piece} />}
        </>
      )}
    </>
  );
}

/** Whether single connections of its path can be changed by hand. */
const hasLinks = ({ path }: Piece): boolean =>
  Object.values(findUnit(path.unit)?.parameters ?? {}).some(({ kind }) => kind === 'links');

function DrawnLines({ piece }: { piece: Piece }) {
  const dispatch = useAppDispatch();
  const document = useAppSelector((state) => state.project.document);
  const points = useAppSelector((state) => state.view.points);
  const surroundings = useSurroundings();
  const ids = curveIdsOf(piece);
  const curves = ids.flatMap((id) => document?.curves.find((curve) => curve.id === id) ?? []);
  const open = curves.filter((curve) => !curve.closed);
  // the two lines whose points are chosen, or the first two
  const touched = open.filter(({ id }) => points.some(({ curve }) => curve === id));
  const pair = touched.length === 2 ? touched : open.slice(0, 2);
  return (
    <>
      {curves.map((curve) => (
        <LineRow key={curve.id} curve={curve} piece={piece.id} />
      ))}
      <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 1, my: 1 }}>
        <Button
          size="small"
          variant="outlined"
          color="secondary"
          onClick={() => dispatch(penTakenInto({ pen: 'stroke', piece: piece.id }))}
        >
          {curves.length === 0 ? 'Draw a line' : 'Draw another into it'}
        </Button>
        {pair.length === 2 && (
          <Button
            size="small"
            variant="outlined"
            color="inherit"
            onClick={() => dispatch(joinLines(piece.id, pair[0].id, pair[1].id, surroundings()))}
          >
            {touched.length === 2 ? 'Join the selected two' : 'Join the first two'}
          </Button>
        )}
      </Box>
      {points.length > 0 ? (
        <ChosenPoints />
      ) : (
        <Typography variant="body2" color="textSecondary" sx={{ mt: 1 }}>
          Drag a ring to move a point; hold X, Y or Z for one axis. Ctrl or Shift selects several, Shift-drag a box.
          Double-click the line to insert a point.
        </Typography>
      )}
    </>
  );
}

function LineRow({ curve, piece }: { curve: DrawnCurve; piece: string }) {
  const dispatch = useAppDispatch();
  const surroundings = useSurroundings();
  return (
    <Box sx={{ display: 'flex', alignItems: 'center', minHeight: 28 }}>
      <Button
        size="small"
        color="inherit"
        onClick={() => dispatch(chooseLines([curve.id]))}
        sx={{ flex: 1, minWidth: 0, justifyContent: 'flex-start', px: 0, fontWeight: 400 }}
        aria-label={`Select all points of ${curve.name}`}
      >
        <Typography noWrap>
          {curve.name}, {curve.points.length} points
        </Typography>
      </Button>
      <Tooltip title="Reverse direction" describeChild>
        <IconButton aria-label={`Reverse ${curve.name}`} onClick={() => dispatch(reverseCurves([curve.id]))}>
          <SwapHoriz sx={{ fontSize: 17 }} />
        </IconButton>
      </Tooltip>
      <Tooltip title="Duplicate" describeChild>
        <IconButton
          aria-label={`Duplicate ${curve.name}`}
          onClick={() => dispatch(duplicateLine(piece, curve.id, [0.05, 0, 0.05], surroundings()))}
        >
          <ContentCopy sx={{ fontSize: 15 }} />
        </IconButton>
      </Tooltip>
      <Tooltip title="Closed" describeChild>
        <Switch
          size="small"
          checked={curve.closed}
          disabled={curve.points.length < 3}
          onChange={(_event, closed) => dispatch(setCurveClosed(curve.id, closed))}
          slotProps={{ input: { 'aria-label': `Close ${curve.name}` } }}
        />
      </Tooltip>
    </Box>
  );
}
