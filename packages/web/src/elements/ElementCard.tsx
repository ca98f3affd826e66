import { type Piece, placesOf } from '@kelp/core';
import { Box, Button, MenuItem, Select, Typography } from '@mui/material';
import { useAppDispatch, useAppSelector } from '../app/store.js';
import { useBuild } from '../evaluation/EvaluationProvider.js';
import { ControlRow } from '../fields/ControlRow.js';
import { NumberField } from '../fields/NumberField.js';
import { METRES } from '../fields/units.js';
import { elementChosen } from '../state/view-slice.js';
import { changeElement, editOf, elementPlace, putAllBack } from './element-edits.js';

/** Single elements of a piece: the picked one is moved, turned, sized, replaced or dropped; all can be put back. */
export function ElementCard({ piece }: { piece: Piece }) {
  const dispatch = useAppDispatch();
  const element = useAppSelector((state) => state.view.element);
  const build = useBuild(piece.id);
  const changed = piece.elements?.length ?? 0;
  if (!build?.parts.some(placesOf) && changed === 0) return null;
  return (
    <Box sx={{ py: 2, borderTop: 1, borderColor: 'divider' }}>
      {element === null ? (
        <Typography variant="body2" color="textSecondary">
          Click a part in the view to move, rotate, replace or remove it.
        </Typography>
      ) : (
        <OneElement piece={piece} element={element} />
      )}
      {changed > 0 && (
        <Box sx={{ display: 'flex', alignItems: 'center', gap: 2, mt: 1 }}>
          <Typography variant="body2" color="textSecondary" sx={{ flex: 1 }}>
            {changed === 1 ? '1 edited by hand' : `${changed} edited by hand`}
          </Typography>
          <Button size="small" color="inherit" onClick={() => dispatch(putAllBack(piece))}>
            Reset all
          </Button>
        </Box>
      )}
    </Box>
  );
}

function OneElement({ piece, element }: { piece: Piece; element: number }) {
  const dispatch = useAppDispatch();
  const display = useAppSelector((state) => state.project.document?.displayUnit ?? 'mm');
  const props = useAppSelector((state) => state.project.document?.props);
  const build = useBuild(piece.id);
  const { move = [0, 0, 0], turn = 0, size = 1, prop = '', dropped = false } = editOf(piece, element);
  const there = dropped || (build && elementPlace(build.parts, element) !== undefined);
  const factor = METRES[display];
  const gesture = (name: string, done: boolean) => (done ? undefined : `${piece.id} ${element} ${name}`);
  return (
    <>
      <Typography variant="subtitle1" component="h3" gutterBottom>
        {dropped ? 'Selected part, removed' : 'Selected part'}
      </Typography>
      {!there && (
        <Typography variant="body2" color="textSecondary">
          The piece no longer has this part; its edits are kept in case it returns.
        </Typography>
      )}
      {!dropped && (
        <>
          {(['X', 'Y', 'Z'] as const).map((axis, k) => (
            <NumberField
              key={axis}
              label={`Move ${axis}`}
              help="Offset by hand; drag the square in the view to change it."
              value={move[k]}
              min={-1e6}
              max={1e6}
              comfortable={[-0.2, 0.2]}
              initial={0}
              shown={{ factor, unit: display, digits: 2 }}
              onChange={(value, done) =>
                dispatch(
                  changeElement(
                    piece,
                    element,
                    'Move',
                    { move: move.with(k, value) as [number, number, number] },
                    gesture(axis, done),
                  ),
                )
              }
            />
          ))}
          <NumberField
            label="Rotation"
            help="Rotation around its own up axis."
            value={turn}
            min={-6000}
            max={6000}
            comfortable={[-Math.PI, Math.PI]}
            initial={0}
            shown={{ factor: Math.PI / 180, unit: '°', digits: 1 }}
            onChange={(value, done) =>
              dispatch(changeElement(piece, element, 'Rotate', { turn: value || undefined }, gesture('turn', done)))
            }
          />
          <NumberField
            label="Size factor"
            help="Size relative to before; 1 is unchanged."
            value={size}
            min={1e-3}
            max={1000}
            comfortable={[0.2, 3]}
            initial={1}
            shown={{ factor: 1, unit: '×', digits: 3 }}
            onChange={(value, done) =>
              dispatch(
                changeElement(piece, element, 'Size', { size: value === 1 ? undefined : value }, gesture('size', done)),
              )
            }
          />
          <ControlRow label="Replacement" help="Prop used in its place, at the same size.">
            <Select
              size="small"
              fullWidth
              displayEmpty
              value={props?.some(({ id }) => id === prop) ? prop : ''}
              onChange={(event) =>
                dispatch(changeElement(piece, element, 'Replace', { prop: event.target.value || undefined }))
              }
              inputProps={{ 'aria-label': 'Replacement' }}
              sx={{ '& .MuiSelect-select': { py: '4px' } }}
            >
              <MenuItem value="">None</MenuItem>
              {props?.map(({ id, name }) => (
                <MenuItem key={id} value={id}>
                  {name}
                </MenuItem>
              ))}
            </Select>
          </ControlRow>
        </>
      )}
      <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 1, my: 1 }}>
        {dropped ? (
          <Button
            size="small"
            variant="outlined"
            color="inherit"
            onClick={() => dispatch(changeElement(piece, element, 'Reset', { dropped: undefined }))}
          >
            Reset part
          </Button>
        ) : (
          <Button
            size="small"
            variant="outlined"
            color="inherit"
            onClick={() => dispatch(changeElement(piece, element, 'Remove', { dropped: true }))}
          >
            Remove part
          </Button>
        )}
        <Button size="small" color="inherit" onClick={() => dispatch(elementChosen(null))}>
          Done
        </Button>
      </Box>
    </>
  );
}
