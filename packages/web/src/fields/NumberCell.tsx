import { InputAdornment, OutlinedInput } from '@mui/material';
import { useState } from 'react';
import { NUMBER_FONT } from '../theme/colours.js';
import { parseNumber } from './parse.js';
import { round } from './units.js';

interface NumberCellProps {
  label: string;
  value: number;
  min: number;
  max: number;
  unit: string;
  onChange(value: number): void;
}

/** A small field for a number alone, arithmetic included; what is out of bounds goes to the bound. */
export function NumberCell({ label, value, min, max, unit, onChange }: NumberCellProps) {
  const [text, setText] = useState<string | null>(null);
  const commit = async () => {
    if (text === null) return;
    setText(null);
    const typed = await parseNumber(text, { unit, factor: 1, digits: 3 }).catch(() => value);
    const next = Math.min(max, Math.max(min, typed));
    if (next !== value) onChange(next);
  };
  return (
    <OutlinedInput
      size="small"
      value={text ?? round(value, 3)}
      onChange={(event) => setText(event.target.value)}
      onBlur={() => void commit()}
      onKeyDown={(event) => {
        if (event.key === 'Enter') void commit();
        if (event.key === 'Escape') setText(null);
        event.stopPropagation();
      }}
      inputProps={{ 'aria-label': label, style: { padding: '2px 4px', fontFamily: NUMBER_FONT, textAlign: 'right' } }}
      endAdornment={<InputAdornment position="end">{unit}</InputAdornment>}
      sx={{ width: 76, height: 22 }}
    />
  );
}
