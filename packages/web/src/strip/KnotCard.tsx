import type { DisplayUnit, Lane, NumberParameter } from '@kelp/core';
import { Box, Button, Popover, ToggleButton, ToggleButtonGroup, Typography } from '@mui/material';
import { NumberField } from '../fields/NumberField.js';
import { METRES, type Shown, shownAs } from '../fields/units.js';
import { easeKnot, moveKnot, withoutKnot } from './lane-edits.js';

interface KnotCardProps {
  label: string;
  anchor: Element;
  parameter: NumberParameter;
  lane: Lane;
  index: number;
  /** Of the line, metres; null where lines of several lengths share the axis. */
  length: number | null;
  display: DisplayUnit;
  onChange(value: Lane | number, done: boolean): void;
  onClose(): void;
}

/** The numbers of one knot, to be typed: where it is and how much, and how the lane runs on from it. */
export function KnotCard({ anchor, label, parameter, lane, index, length, display, onChange, onClose }: KnotCardProps) {
  const knot = lane.knots[index];
  if (!knot) return null;
  const limits = [parameter.min, parameter.max] as const;
  const share: Shown = { factor: 0.01, unit: '%', digits: 2 };
  const place: Shown = length === null ? share : { factor: METRES[display] / length, unit: display, digits: 2 };
  return (
    <Popover
      open
      anchorEl={anchor}
      onClose={onClose}
      anchorOrigin={{ vertical: 'top', horizontal: 'center' }}
      transformOrigin={{ vertical: 'bottom', horizontal: 'center' }}
      slotProps={{ paper: { sx: { p: 3, width: 300, border: 1, borderColor: 'divider' } } }}
    >
      <Typography variant="subtitle1" component="h3" gutterBottom>
        {label}, knot {index + 1} of {lane.knots.length}
      </Typography>
      <NumberField
        label="Position"
        help="Position along the line."
        value={knot.at}
        min={lane.knots[index - 1]?.at ?? 0}
        max={lane.knots[index + 1]?.at ?? 1}
        comfortable={[0, 1]}
        initial={knot.at}
        shown={place}
        onChange={(at, done) => onChange(moveKnot(lane, index, at, knot.value, limits), done)}
      />
      <NumberField
        label="Value"
        help={parameter.help}
        value={knot.value}
        min={parameter.min}
        max={parameter.max}
        comfortable={parameter.comfortable}
        initial={parameter.default}
        shown={shownAs(parameter, display)}
        onChange={(value, done) => onChange(moveKnot(lane, index, knot.at, value, limits), done)}
      />
      <Box sx={{ display: 'grid', gridTemplateColumns: '84px 1fr', alignItems: 'center', gap: 2, mt: 1 }}>
        <Typography>Interpolation</Typography>
        <ToggleButtonGroup
          fullWidth
          exclusive
          size="small"
          disabled={index === lane.knots.length - 1}
          value={knot.ease ?? lane.ease}
          onChange={(_event, ease) => ease && onChange(easeKnot(lane, index, ease), true)}
          aria-label="Interpolation to the next knot"
        >
          <ToggleButton value="smooth">Smooth</ToggleButton>
          <ToggleButton value="straight">Linear</ToggleButton>
        </ToggleButtonGroup>
        <span />
        <Button
          color="inherit"
          sx={{ justifySelf: 'end' }}
          onClick={() => {
            onChange(withoutKnot(lane, index), true);
            onClose();
          }}
        >
          Remove
        </Button>
      </Box>
    </Popover>
  );
}
