import { SOURCE_UNITS, type SourceUnit } from '@kelp/formats';
import { Box, ToggleButton, ToggleButtonGroup, Typography } from '@mui/material';

/** A question of a dialog: words on the left, the answer on the right. */
export function Question({ label, children }: { label: string; children: React.ReactNode }) {
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: '170px 1fr', alignItems: 'center' }}>
      <Typography>{label}</Typography>
      {children}
    </Box>
  );
}

/** One of a few answers. */
export function Answers<T extends string>({
  label,
  value,
  options,
  onChange,
}: {
  label: string;
  value: T;
  options: readonly { value: NoInfer<T>; label: string }[];
  onChange(next: NoInfer<T>): void;
}) {
  return (
    <ToggleButtonGroup
      exclusive
      value={value}
      onChange={(_event, next: T | null) => next && onChange(next)}
      aria-label={label}
    >
      {options.map((option) => (
        <ToggleButton key={option.value} value={option.value} sx={{ minWidth: 44 }}>
          {option.label}
        </ToggleButton>
      ))}
    </ToggleButtonGroup>
  );
}

export const UNIT_ANSWERS = (Object.keys(SOURCE_UNITS) as SourceUnit[]).map((unit) => ({ value: unit, label: unit }));
