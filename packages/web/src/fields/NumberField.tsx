import { Box, InputAdornment, OutlinedInput, Slider, Tooltip, Typography } from '@mui/material';
import { type KeyboardEvent, useId, useState } from 'react';
import { COLOURS, NUMBER_FONT } from '../theme/colours.js';
import { parseNumber } from './parse.js';
import { round, type Shown } from './units.js';

export interface NumberFieldProps {
  label: string;
  help: string;
  /** Stored value, hard limits and slider range, all in the stored unit. */
  value: number;
  min: number;
  max: number;
  comfortable: readonly [number, number];
  initial: number;
  whole?: boolean;
  /** For panels of little width. */
  narrow?: boolean;
  shown: Shown;
  /** `done` is false while the value is being dragged. */
  onChange(value: number, done: boolean): void;
  onHover?(hovered: boolean): void;
}

const STEPS = 1000;

/** Label, slider over the comfortable range, and a field that reads units and arithmetic. Double-click resets. */
export function NumberField(props: NumberFieldProps) {
  const { label, help, value, min, max, comfortable, initial, shown, onChange, onHover } = props;
  const id = useId();
  const [text, setText] = useState<string | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const [low, high] = comfortable;
  const scale = sliderScale(low, high);
  const beyond = value < low || value > high;
  const accept = (next: number, done: boolean) => onChange(props.whole ? Math.round(next) : next, done);
  const commit = async () => {
    if (text === null) return;
    try {
      const typed = (await parseNumber(text, shown)) * shown.factor;
      const limit =
        typed < min
          ? `at least ${round(min / shown.factor, 5)}`
          : typed > max
            ? `at most ${round(max / shown.factor, 5)}`
            : null;
      if (limit) throw new Error(`${label} must be ${limit} ${shown.unit}`.trim());
      setProblem(null);
      setText(null);
      accept(typed, true);
    } catch (error) {
      setProblem((error as Error).message);
    }
  };
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.key === 'Enter') void commit();
    if (event.key === 'Escape') {
      setText(null);
      setProblem(null);
    }
    const direction = event.key === 'ArrowUp' ? 1 : event.key === 'ArrowDown' ? -1 : 0;
    if (direction === 0) return;
    event.preventDefault();
    const step = props.whole ? 1 : ((high - low) / 100) * (event.shiftKey ? 10 : event.altKey ? 0.1 : 1);
    accept(Math.min(max, Math.max(min, value + direction * step)), true);
    setText(null);
  };
  const range = `${round(low / shown.factor, 3)} to ${round(high / shown.factor, 3)} ${shown.unit}`.trim();
  return (
    <Box
      sx={{ mb: 0.5 }}
      onMouseEnter={() => onHover?.(true)}
      onMouseLeave={() => onHover?.(false)}
      onFocus={() => onHover?.(true)}
      onBlur={() => onHover?.(false)}
    >
      <Box
        sx={{
          display: 'grid',
          gridTemplateColumns: props.narrow ? '54px 1fr 72px' : '84px 1fr 92px',
          gap: 2,
          alignItems: 'center',
        }}
      >
        <Tooltip
          title={`${help} Usually ${range}. Double-click for ${round(initial / shown.factor, 3)}.`}
          placement="left"
        >
          <Typography
            id={id}
            component="label"
            htmlFor={`${id}-text`}
            noWrap
            onDoubleClick={() => accept(initial, true)}
          >
            {label}
          </Typography>
        </Tooltip>
        <Slider
          aria-labelledby={id}
          size="small"
          onDoubleClick={() => accept(initial, true)}
          min={0}
          max={STEPS}
          value={Math.round(STEPS * scale.share(value))}
          getAriaValueText={() => `${round(value / shown.factor, shown.digits)} ${shown.unit}`}
          onChange={(_event, share) => accept(scale.value((share as number) / STEPS), false)}
          onChangeCommitted={(_event, share) => accept(scale.value((share as number) / STEPS), true)}
        />
        <OutlinedInput
          id={`${id}-text`}
          error={problem !== null}
          value={text ?? round(value / shown.factor, shown.digits)}
          onChange={(event) => setText(event.target.value)}
          onBlur={() => void commit()}
          onKeyDown={onKeyDown}
          onFocus={(event) => event.target.select()}
          slotProps={{ input: { 'aria-label': `${label} value`, 'aria-invalid': problem !== null } }}
          endAdornment={
            shown.unit && (
              <InputAdornment
                position="end"
                sx={{ ml: 0.5, '& p': { fontSize: 11, fontFamily: NUMBER_FONT, color: COLOURS.inkSecond } }}
              >
                {shown.unit}
              </InputAdornment>
            )
          }
          sx={{
            pr: 1.5,
            borderRadius: '3px',
            '& input': { fontFamily: NUMBER_FONT, fontSize: 12, textAlign: 'right', px: 1, py: '4px' },
            '& fieldset': { borderColor: beyond ? COLOURS.strawLight : COLOURS.hairline },
          }}
        />
      </Box>
      {problem && (
        <Typography variant="body2" color="error" role="alert" sx={{ pl: '92px' }}>
          {problem}
        </Typography>
      )}
    </Box>
  );
}

/** Slider places: the lower half of a range from 0 is drawn out, since that is where the eye sees differences. */
function sliderScale(low: number, high: number) {
  const power = low >= 0 && high / Math.max(low, high / 50) > 20 ? 2 : 1;
  return {
    share: (value: number) => Math.max(0, Math.min(1, (value - low) / (high - low))) ** (1 / power),
    value: (share: number) => {
      const exact = low + (high - low) * share ** power;
      // three digits are all that a hand can set
      return +exact.toPrecision(3);
    },
  };
}
