import type { Parameter } from '@kelp/core';
import { MenuItem, Select } from '@mui/material';
import { ControlRow } from './ControlRow.js';

/** Stands for values that differ: neither ids nor options hold spaces. */
const MIXED = 'mixed values';

interface PickListProps {
  parameter: Parameter;
  value: string;
  mixed?: boolean;
  options: readonly { value: string; label: string }[];
  /** What one of them looks like: see `ChoiceParameter`. */
  picture?(value: string): string;
  onChange(value: string, done: boolean): void;
}

/** One of this many that they have no room beside each other. */
export function PickList({ parameter, value, mixed, options, picture, onChange }: PickListProps) {
  return (
    <ControlRow label={parameter.label} help={parameter.help}>
      <Select
        size="small"
        fullWidth
        displayEmpty
        value={mixed ? MIXED : value}
        onChange={(event) => onChange(event.target.value, true)}
        inputProps={{ 'aria-label': parameter.label }}
        sx={{ '& .MuiSelect-select': { py: '4px', display: 'flex', alignItems: 'center', gap: 1 } }}
      >
        {mixed && (
          <MenuItem value={MIXED} disabled>
            mixed
          </MenuItem>
        )}
        {options.map((option) => (
          <MenuItem key={option.value} value={option.value} sx={{ gap: 1 }}>
            {picture && (
              <svg viewBox="-1.15 -1.15 2.3 2.3" width={20} height={20} aria-hidden="true">
                <path d={picture(option.value)} fill="currentColor" fillRule="evenodd" />
              </svg>
            )}
            {option.label}
          </MenuItem>
        ))}
      </Select>
    </ControlRow>
  );
}
