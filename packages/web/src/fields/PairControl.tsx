import { type DisplayUnit, type Pair, type PairParameter, pairAt } from '@kelp/core';
import { Box, Slider, Typography } from '@mui/material';
import { useMemo } from 'react';
import { COLOURS } from '../theme/colours.js';
import { LABEL, LabelTip } from './LabelTip.js';
import { NumberField } from './NumberField.js';
import { round, shownAs } from './units.js';

interface PairControlProps {
  name: string;
  parameter: PairParameter;
  value: Pair;
  display: DisplayUnit;
  /** The things it represents differ. */
  mixed?: boolean;
  /** Ids of the lines and the seed by which their values are drawn; without lines there is nothing to count. */
  drawn?: { ids: ArrayLike<number>; seed: number };
  onChange(value: Pair, done: boolean): void;
}

/** Columns of the histogram. */
const COLUMNS = 16;

/** A least and a most: a slider with two thumbs, a field for each, and how the values that result are spread. */
export function PairControl({ name, parameter, value, display, mixed, drawn, onChange }: PairControlProps) {
  const { label, help, min, max, comfortable } = parameter;
  const shown = shownAs(parameter, display);
  const counts = useMemo(() => (drawn ? countsOf(value, name, drawn) : null), [value, name, drawn]);
  const tallest = Math.max(1, ...(counts ?? []));
  const end = (which: keyof Pair) => (
    <NumberField
      label={`${label}, ${which === 'least' ? 'min' : 'max'}`}
      short={which === 'least' ? 'Min' : 'Max'}
      help={help}
      value={value[which]}
      min={min}
      max={max}
      comfortable={comfortable}
      initial={parameter.default[which]}
      shown={shown}
      mixed={mixed}
      onChange={(next, done) =>
        onChange(
          which === 'least'
            ? { least: next, most: Math.max(next, value.most) }
            : { least: Math.min(next, value.least), most: next },
          done,
        )
      }
    />
  );
  return (
    <Box role="group" aria-label={label} sx={{ mb: 1 }}>
      <Box sx={{ display: 'grid', gridTemplateColumns: '92px 1fr', gap: 2, alignItems: 'center' }}>
        <LabelTip help={help}>
          <Typography sx={LABEL}>{label}</Typography>
        </LabelTip>
        <Slider
          size="small"
          min={comfortable[0]}
          max={comfortable[1]}
          step={(comfortable[1] - comfortable[0]) / 200}
          value={[value.least, value.most]}
          getAriaLabel={(thumb) => `${label}, ${thumb === 0 ? 'min' : 'max'}`}
          getAriaValueText={(at) => `${round(at / shown.factor, shown.digits)} ${shown.unit}`}
          onChange={(_event, at) => onChange(pairOf(at as number[]), false)}
          onChangeCommitted={(_event, at) => onChange(pairOf(at as number[]), true)}
        />
      </Box>
      {counts && !mixed && (
        <Box
          role="img"
          aria-label={`${drawn?.ids.length} values between ${round(value.least / shown.factor, shown.digits)} and ${round(value.most / shown.factor, shown.digits)} ${shown.unit}`}
          sx={{ display: 'flex', alignItems: 'flex-end', gap: '1px', height: 22, ml: '92px', mb: 1 }}
        >
          {counts.map((count, i) => (
            <Box
              // biome-ignore lint/suspicious/noArrayIndexKey: columns are known by their order
              key={i}
              sx={{ flex: 1, height: `${(100 * count) / tallest}%`, minHeight: '1px', background: COLOURS.kelp }}
            />
          ))}
        </Box>
      )}
      {end('least')}
      {end('most')}
    </Box>
  );
}

const pairOf = ([a, b]: number[]): Pair => ({ least: Math.min(a, b), most: Math.max(a, b) });

/** How many lines draw a value in each of the columns between least and most. */
export function countsOf(value: Pair, name: string, { ids, seed }: { ids: ArrayLike<number>; seed: number }): number[] {
  const counts = new Array<number>(COLUMNS).fill(0);
  const width = value.most - value.least || 1;
  for (let c = 0; c < ids.length; c++) {
    const at = (pairAt(value, seed, ids[c], name) - value.least) / width;
    counts[Math.min(COLUMNS - 1, Math.floor(at * COLUMNS))]++;
  }
  return counts;
}
