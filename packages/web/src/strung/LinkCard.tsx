import { type DrawnPoint, type Piece, simplify } from '@kelp/core';
import { Box, Button, MenuItem, Select, Typography } from '@mui/material';
import { useAppDispatch, useAppSelector } from '../app/store.js';
import { useBuild } from '../evaluation/EvaluationProvider.js';
import type { Guide } from '../evaluation/protocol.js';
import { linkChosen, penTakenInto } from '../state/view-slice.js';
import { anchorNames, changeLink, drawByHand } from './link-edits.js';

/** A line that is drawn by hand keeps within such a share of its length of how it hung. */
const KEPT = 0.002;

/** Single lines of a strung piece: the picked one is taken out, led elsewhere, or drawn by hand. */
export function LinkCard({ piece }: { piece: Piece }) {
  const dispatch = useAppDispatch();
  const link = useAppSelector((state) => state.view.link);
  const document = useAppSelector((state) => state.project.document);
  const guide = useBuild(piece.id)?.guide;
  if (!document) return null;
  const names = anchorNames(document, piece);
  const nameOf = (key: number) => names.get(key) ?? 'a point';
  const others = link ? [...names].filter(([key]) => key !== link.from && key !== link.to && isUsed(guide, key)) : [];
  const points = link && guide ? pointsOf(guide, link.line) : [];
  return (
    <Box sx={{ py: 2, borderTop: 1, borderColor: 'divider' }}>
      <Button
        size="small"
        variant="outlined"
        color="secondary"
        onClick={() => dispatch(penTakenInto({ pen: 'string', piece: piece.id }))}
        sx={{ mb: 1 }}
      >
        Pick more in the view
      </Button>
      {link ? (
        <>
          <Typography variant="subtitle1" component="h3" gutterBottom>
            {nameOf(link.from)} to {nameOf(link.to)}
          </Typography>
          {others.length > 0 &&
            (
              [
                ['Redirect to', 'led'],
                ['Add line to', 'added'],
              ] as const
            ).map(([label, how]) => (
              <Select
                key={how}
                size="small"
                fullWidth
                displayEmpty
                value=""
                renderValue={() => `${label}…`}
                onChange={(event) => {
                  const instead = Number(event.target.value);
                  const { from, to } = link;
                  dispatch(
                    how === 'led'
                      ? changeLink(piece, 'Redirect a line', { from, to, how, instead })
                      : changeLink(piece, 'Add a line', { from, to: instead, how }),
                  );
                }}
                inputProps={{ 'aria-label': label }}
                sx={{ mb: 1, '& .MuiSelect-select': { py: '4px' } }}
              >
                {others.map(([key, name]) => (
                  <MenuItem key={key} value={key}>
                    {name}
                  </MenuItem>
                ))}
              </Select>
            ))}
          <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 1 }}>
            <Button
              size="small"
              variant="outlined"
              color="inherit"
              onClick={() => {
                dispatch(changeLink(piece, 'Remove a line', { from: link.from, to: link.to, how: 'out' }));
                dispatch(linkChosen(null));
              }}
            >
              Remove line
            </Button>
            <Button
              size="small"
              variant="outlined"
              color="inherit"
              disabled={points.length < 2}
              onClick={() => dispatch(drawByHand(piece, link, points))}
            >
              Convert to drawn line
            </Button>
            <Button size="small" color="inherit" onClick={() => dispatch(linkChosen(null))}>
              Done
            </Button>
          </Box>
        </>
      ) : (
        <Typography variant="body2" color="textSecondary">
          Click one of its lines in the view to redirect, remove or draw it by hand.
        </Typography>
      )}
    </Box>
  );
}

/** Whether some line runs to that place. */
const isUsed = (guide: Guide | undefined, key: number): boolean =>
  Boolean(guide?.links && (guide.links.from.includes(key) || guide.links.to.includes(key)));

/** A few points that a line runs through, as it hangs. */
function pointsOf({ position, start, id }: Guide, line: number): DrawnPoint[] {
  const c = id.indexOf(line);
  if (c < 0) return [];
  const flat = position.subarray(3 * start[c], 3 * start[c + 1]);
  const far = Math.hypot(...[0, 1, 2].map((k) => flat[flat.length - 3 + k] - flat[k]));
  return simplify(flat, KEPT * far).map((p) => ({
    position: [flat[3 * p], flat[3 * p + 1], flat[3 * p + 2]],
    corner: false,
    radius: 1,
  }));
}
