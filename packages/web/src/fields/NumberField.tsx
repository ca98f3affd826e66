import { Box, InputAdornment, OutlinedInput, Slider, Typography } from '@mui/material';
import { type KeyboardEvent, useEffect, useId, useRef, useState } from 'react';
import { COLOURS, NUMBER_FONT } from '../theme/colours.js';
import { LABEL, LabelTip } from './LabelTip.js';
import { parseNumber } from './parse.js';
import { round, type Shown } from './units.js';

export interface NumberFieldProps {
  label: string;
  /** Shown instead of the label where the label stands above already. */
  short?: string;
  help: string;
  /** Stored value, hard limits and slider range, all in the stored unit. */
  value: number;
  min: number;
  max: number;
  comfortable: readonly [number, number];
  initial: number;
  whole?: boolean;
  /** The things it represents differ: it shows no figure until one is set for all. */
  mixed?: boolean;
  /** For panels of little width. */
  narrow?: boolean;
  shown: Shown;
  /** `done` is false while the value is being dragged. */
  onChange(value: number, done: boolean): void;
}

const STEPS = 1000;

/** Label, slider over the comfortable range, and a field that reads units and arithmetic. Double-click resets. */
export function NumberField(props: NumberFieldProps) {
  const { label, help, value, min, max, comfortable, initial, shown, mixed, onChange } = props;
  const id = useId();
  const [text, setText] = useState<string | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const [low, high] = comfortable;
  const scale = sliderScale(low, high);
  const beyond = value < low || value > high;
  const accept = (next: number, done: boolean) => onChange(props.whole ? Math.round(next) : next, done);
  const commit = async () => {
    if (text === null) return;
    if (mixed && text.trim() === '') return setText(null);
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
  /** One step up or down: Shift takes ten at once, Alt a tenth. */
  const nudge = (direction: number, keys: { shiftKey: boolean; altKey: boolean }) => {
    const step = props.whole
      ? keys.shiftKey
        ? 10
        : 1
      : ((high - low) / 100) * (keys.shiftKey ? 10 : keys.altKey ? 0.1 : 1);
    accept(Math.min(max, Math.max(min, +(value + direction * step).toPrecision(12))), true);
    setText(null);
  };
  const field = useRef<HTMLInputElement>(null);
  const live = useRef(nudge);
  live.current = nudge;
  useEffect(() => {
    const element = field.current;
    // only in the field that has the focus: a wheel over the panel scrolls it
    const wheel = (event: WheelEvent) => {
      if (document.activeElement !== element) return;
      event.preventDefault();
      live.current(event.deltaY + event.deltaX < 0 ? 1 : -1, event);
    };
    element?.addEventListener('wheel', wheel, { passive: false });
    return () => element?.removeEventListener('wheel', wheel);
  }, []);
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.key === 'Enter') void commit();
    if (event.key === 'Escape') {
      setText(null);
      setProblem(null);
    }
    const direction = event.key === 'ArrowUp' ? 1 : event.key === 'ArrowDown' ? -1 : 0;
    if (direction === 0) return;
    event.preventDefault();
    nudge(direction, event);
  };
  const range = `${round(low / shown.factor, 3)} to ${round(high / shown.factor, 3)} ${shown.unit}`.trim();
  return (
    <Box sx={{ mb: 0.5 }}>
      <Box
        sx={{
          display: 'grid',
          gridTemplateColumns: props.narrow ? '54px 1fr 72px' : '92px 1fr 92px',
          gap: 2,
          alignItems: 'center',
        }}
      >
        <LabelTip help={`${help} Usual range ${range}. Double-click to reset to ${round(initial / shown.factor, 3)}.`}>
          <Typography
            id={id}
            component="label"
            htmlFor={`${id}-text`}
            sx={LABEL}
            onDoubleClick={() => accept(initial, true)}
          >
            {props.short ?? label}
          </Typography>
        </LabelTip>
        <Slider
          aria-labelledby={id}
          size="small"
          sx={mixed ? { '& .MuiSlider-thumb, & .MuiSlider-track': { opacity: 0.3 } } : undefined}
          onDoubleClick={() => accept(initial, true)}
          min={0}
          max={STEPS}
          value={Math.round(STEPS * scale.share(value))}
          getAriaValueText={() => (mixed ? 'mixed' : `${round(value / shown.factor, shown.digits)} ${shown.unit}`)}
          onChange={(_event, share) => accept(scale.value((share as number) / STEPS), false)}
          onChangeCommitted={(_event, share) => accept(scale.value((share as number) / STEPS), true)}
        />
        <OutlinedInput
          id={`${id}-text`}
          inputRef={field}
          error={problem !== null}
          value={text ?? (mixed ? '' : round(value / shown.factor, shown.digits))}
          placeholder={mixed ? 'mixed' : undefined}
          onChange={(event) => setText(event.target.value)}
          onBlur={() => void commit()}
          onKeyDown={onKeyDown}
          onFocus={(event) => event.target.select()}
          slotProps={{ input: { 'aria-label': `${label} value`, 'aria-invalid': problem !== null } }}
          endAdornment={
            shown.unit &&
            // "mixed" needs the room
            !(mixed && text === null) && (
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
