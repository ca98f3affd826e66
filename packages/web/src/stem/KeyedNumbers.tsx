import { findUnit, isLane, isNumberParameter, type KeyedNumber, keyedNumber, type Piece, withPiece } from '@kelp/core';
import Close from '@mui/icons-material/Close';
import { Box, IconButton, MenuItem, Select, Typography } from '@mui/material';
import { useAppDispatch, useAppSelector } from '../app/store.js';
import { NumberField } from '../fields/NumberField.js';
import { shownAs } from '../fields/units.js';
import { edit } from '../state/edits.js';
import { gestureEnded } from '../state/project-slice.js';
import { Fold } from './Fold.js';

/** Numbers of a piece that the clock leads from one value to another. */
export function KeyedNumbers({ piece }: { piece: Piece }) {
  const dispatch = useAppDispatch();
  const display = useAppSelector((state) => state.project.document?.displayUnit ?? 'mm');
  const keyed = piece.keyed ?? [];
  const set = (next: readonly KeyedNumber[], done = true) => {
    dispatch(
      edit(
        `Animate ${piece.name}`,
        (document) =>
          withPiece(document, piece.id, ({ keyed: _was, ...now }) =>
            next.length > 0 ? { ...now, keyed: [...next] } : now,
          ),
        `${piece.id} keyed`,
      ),
    );
    if (done) dispatch(gestureEnded());
  };
  const change = (i: number, part: Partial<KeyedNumber>, done = true) =>
    set(keyed.with(i, { ...keyed[i], ...part }), done);
  const all = numbersOf(piece);
  return (
    <Fold
      label="Animation"
      words={keyed.length === 0 ? 'nothing' : `${keyed.length === 1 ? '1 parameter' : `${keyed.length} parameters`}`}
    >
      <Select
        size="small"
        fullWidth
        displayEmpty
        value=""
        renderValue={() => 'Animate a parameter…'}
        onChange={(event) => {
          const found = all.find(({ key }) => key === event.target.value);
          if (found) set([...keyed, found.first]);
        }}
        inputProps={{ 'aria-label': 'Animate a parameter' }}
        sx={{ mb: 1, '& .MuiSelect-select': { py: '4px' } }}
      >
        {all.map(({ key, label }) => (
          <MenuItem key={key} value={key}>
            {label}
          </MenuItem>
        ))}
      </Select>
      {keyed.map((key, i) => {
        const found = keyedNumber(piece, key);
        const label = `${found?.parameter.label ?? key.parameter}${key.knot === undefined ? '' : `, knot ${key.knot + 1}`}`;
        if (!found) return null;
        const { parameter } = found;
        const field = (end: 'from' | 'to') => (
          <NumberField
            label={`${label}, ${end === 'from' ? 'start' : 'end'}`}
            short={end === 'from' ? 'Start' : 'End'}
            help={`Value at the ${end === 'from' ? 'start' : key.way === 'back' ? 'middle' : 'end'} of the loop.`}
            value={key[end]}
            min={parameter.min}
            max={parameter.max}
            comfortable={parameter.comfortable}
            initial={parameter.default}
            shown={shownAs(parameter, display)}
            onChange={(value, done) => change(i, { [end]: value }, done)}
          />
        );
        return (
          <Box
            key={`${key.stage} ${key.index ?? ''} ${key.parameter} ${key.knot ?? ''}`}
            role="group"
            aria-label={`Animation of ${label}`}
            sx={{ mb: 1 }}
          >
            <Box sx={{ display: 'flex', alignItems: 'center', gap: 1 }}>
              <Typography variant="body2" sx={{ flex: 1 }} noWrap>
                {label}
              </Typography>
              <Select
                size="small"
                value={key.way}
                onChange={(event) => change(i, { way: event.target.value as KeyedNumber['way'] })}
                inputProps={{ 'aria-label': `Interpolation of ${label}` }}
                sx={{ '& .MuiSelect-select': { py: '2px' } }}
              >
                <MenuItem value="back">Back and forth</MenuItem>
                <MenuItem value="once">Forward</MenuItem>
              </Select>
              <IconButton
                size="small"
                aria-label={`Remove animation of ${label}`}
                onClick={() => set(keyed.toSpliced(i, 1))}
                sx={{ p: 0.25 }}
              >
                <Close sx={{ fontSize: 16 }} />
              </IconButton>
            </Box>
            {field('from')}
            {field('to')}
          </Box>
        );
      })}
    </Fold>
  );
}

/** Every number of a piece's path, shape and make, and every knot of one that varies; each as it would first be led. */
function numbersOf(piece: Piece): { key: string; label: string; first: KeyedNumber }[] {
  const places = [
    { stage: 'path' as const, use: piece.path },
    ...piece.shape.map((use, index) => ({ stage: 'shape' as const, index, use })),
    { stage: 'make' as const, use: piece.make },
  ];
  return places.flatMap(({ use, ...place }) => {
    const unit = findUnit(use.unit);
    return Object.entries(unit?.parameters ?? {}).flatMap(([parameter, declared]) => {
      if (!isNumberParameter(declared) || declared.kind === 'seed') return [];
      const value = use.parameters[parameter];
      const one = (now: number, knot?: number) => {
        const [low, high] = declared.comfortable;
        const first: KeyedNumber = {
          ...place,
          unit: use.unit,
          parameter,
          ...(knot === undefined ? {} : { knot }),
          from: now,
          // twice as much, or a little of what it may be
          to: Math.min(declared.max, now > 0 ? 2 * now : now + 0.1 * (high - low)),
          way: 'back',
        };
        return {
          key: JSON.stringify([place, parameter, knot]),
          label: `${unit?.label}: ${declared.label}${knot === undefined ? '' : `, knot ${knot + 1}`}`,
          first,
        };
      };
      if (typeof value === 'number') return [one(value)];
      return typeof value === 'object' && 'knots' in value && isLane(value)
        ? value.knots.map((knot, k) => one(knot.value, k))
        : [];
    });
  });
}
