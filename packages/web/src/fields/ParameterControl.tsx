import {
  type AlongValue,
  type DisplayUnit,
  greatest,
  isLane,
  isWhole,
  type KelpDocument,
  type LevelValue,
  length,
  MAX_COORDINATE,
  type NumberParameter,
  normalize,
  type Pair,
  type Parameter,
  type ParameterValue,
  type Vec3,
  vec3,
  whyUnmeasured,
} from '@kelp/core';
import { Box, Button, Switch, ToggleButton, ToggleButtonGroup, Typography } from '@mui/material';
import { type ComponentProps, type ComponentType, useId } from 'react';
import { ColourInput } from './ColourInput.js';
import { ControlRow } from './ControlRow.js';
import { LabelTip } from './LabelTip.js';
import { NumberField } from './NumberField.js';
import { PairControl } from './PairControl.js';
import { PickList } from './PickList.js';
import { REFERENCE_CONTROLS } from './reference-controls.js';
import { lengthText, METRES, shownAs } from './units.js';
import { WheelsControl } from './WheelsControl.js';

export interface ParameterControlProps {
  name: string;
  parameter: Parameter;
  value: ParameterValue;
  display: DisplayUnit;
  /** The lines that draw their values from a pair, and by which seed. */
  drawn?: { ids: ArrayLike<number>; seed: number };
  /** The things it represents differ; `value` is that of one of them. */
  mixed?: boolean;
  /** `done` is false while a value is being dragged; `also` is what else of the document changes in the same step. */
  onChange(value: ParameterValue, done: boolean, also?: (document: KelpDocument) => KelpDocument): void;
}

/** The control that a parameter's declaration asks for. */
export function ParameterControl(given: ParameterControlProps) {
  // a control without a gauge says why, where it says what it does
  const why = whyUnmeasured(given.parameter);
  const parameter = why ? { ...given.parameter, help: `${given.parameter.help} ${why}` } : given.parameter;
  const Control = CONTROLS[parameter.kind] as ComponentType<ParameterControlProps>;
  return <Control {...given} parameter={parameter} />;
}

export type Of<P extends Parameter> = Omit<ParameterControlProps, 'parameter'> & { parameter: P };
type OfKind<K extends Parameter['kind']> = Of<Extract<Parameter, { kind: K }>>;

function NumberControl({ parameter, value, display, mixed, onChange }: Of<NumberParameter>) {
  const along = value as AlongValue;
  if (isLane(along)) {
    const values = along.knots.map((knot) => knot.value);
    const text = mixed
      ? 'mixed'
      : parameter.kind === 'length'
        ? `${lengthText(Math.min(...values), display).replace(/ \D+$/, '')} to ${lengthText(Math.max(...values), display)}`
        : `${along.knots.length} knots`;
    return (
      <ControlRow label={parameter.label} help={parameter.help}>
        <Typography className="number" noWrap sx={{ flex: 1 }}>
          {text}
        </Typography>
        <Button
          size="small"
          color="inherit"
          sx={{ minWidth: 0, px: 1 }}
          onClick={() => onChange(greatest(along), true)}
        >
          Constant
        </Button>
      </ControlRow>
    );
  }
  return (
    <NumberField
      label={parameter.label}
      help={parameter.help}
      value={along}
      min={parameter.min}
      max={parameter.max}
      comfortable={parameter.comfortable}
      initial={parameter.default}
      whole={isWhole(parameter)}
      mixed={mixed}
      shown={shownAs(parameter, display)}
      onChange={onChange}
    />
  );
}

function ToggleControl({ parameter, value, mixed, onChange }: ParameterControlProps) {
  return (
    <ControlRow label={parameter.label} help={parameter.help}>
      <Switch
        size="small"
        checked={value === true}
        onChange={(_event, checked) => onChange(checked, true)}
        slotProps={{ input: { 'aria-label': parameter.label } }}
      />
      {mixed && <Mixed />}
    </ControlRow>
  );
}

/** More options than these have no room beside each other. */
const MAX_BUTTONS = 4;
/** Characters of the longest option times their number: with more, words would be cut. */
const MAX_CHARACTERS = 27;

function ChoiceControl(props: OfKind<'choice'>) {
  const { parameter, value, mixed, onChange } = props;
  const count = parameter.options.length;
  const longest = Math.max(...parameter.options.map(({ label }) => label.length));
  if (count > MAX_BUTTONS || count * longest > MAX_CHARACTERS)
    return <PickList {...props} value={value as string} options={parameter.options} picture={parameter.picture} />;
  return (
    <ControlRow label={parameter.label} help={parameter.help}>
      <ToggleButtonGroup
        exclusive
        size="small"
        value={mixed ? null : value}
        onChange={(_event, next) => next !== null && onChange(next, true)}
        aria-label={parameter.label}
        sx={{ flex: 1 }}
      >
        {parameter.options.map((option) => (
          <ToggleButton
            key={option.value}
            value={option.value}
            sx={{
              flex: 1,
              px: 0.25,
              minWidth: 0,
              whiteSpace: 'nowrap',
              fontSize: parameter.options.length > 2 ? 11.5 : undefined,
            }}
          >
            {option.label}
          </ToggleButton>
        ))}
      </ToggleButtonGroup>
    </ControlRow>
  );
}

function ColourControl({ parameter, value, mixed, onChange }: ParameterControlProps) {
  const id = useId();
  return (
    <ControlRow label={parameter.label} help={parameter.help} htmlFor={id}>
      <ColourInput id={id} value={value as string} width={44} height={26} onChange={onChange} />
      {mixed ? (
        <Mixed />
      ) : (
        <Typography className="number" color="textSecondary">
          {value as string}
        </Typography>
      )}
    </ControlRow>
  );
}

/** Three fields under one heading. */
function Three({
  parameter,
  value,
  onChange,
  ...field
}: Pick<ComponentProps<typeof NumberField>, 'min' | 'max' | 'comfortable' | 'shown'> & {
  parameter: { label: string; help: string; default: readonly [number, number, number] };
  value: Vec3;
  onChange(value: Vec3, done: boolean): void;
}) {
  return (
    <Box role="group" aria-label={parameter.label}>
      {(['X', 'Y', 'Z'] as const).map((axis, k) => (
        <NumberField
          key={axis}
          {...field}
          label={`${parameter.label} ${axis}`}
          help={parameter.help}
          value={value[k]}
          initial={parameter.default[k]}
          onChange={(next, done) => onChange([0, 1, 2].map((n) => (n === k ? next : value[n])) as Vec3, done)}
        />
      ))}
    </Box>
  );
}

function PointControl({ parameter, value, display, onChange }: OfKind<'point'>) {
  return (
    <Three
      parameter={parameter}
      value={value as Vec3}
      min={-MAX_COORDINATE}
      max={MAX_COORDINATE}
      comfortable={[-5, 5]}
      shown={{ factor: METRES[display], unit: display, digits: 2 }}
      onChange={onChange as (value: Vec3, done: boolean) => void}
    />
  );
}

/** Three shares of a direction; what is typed is brought to length 1. */
function DirectionControl({ parameter, value, onChange }: OfKind<'direction'>) {
  return (
    <Three
      parameter={parameter}
      value={value as Vec3}
      min={-1}
      max={1}
      comfortable={[-1, 1]}
      shown={{ factor: 1, unit: '', digits: 3 }}
      onChange={(asked, done) => {
        // a direction of no length is none: what it was before stays
        if (length(asked) > 1e-6) onChange(normalize(vec3(), asked) as [number, number, number], done);
      }}
    />
  );
}

function PairOf(props: OfKind<'pair'>) {
  return <PairControl {...props} value={props.value as Pair} />;
}

/** Equal records, one under the other, each with its own numbers. */
function LevelsControl({ parameter, value, display, onChange }: OfKind<'levels'>) {
  const levels = value as readonly LevelValue[];
  const first = Object.fromEntries(Object.entries(parameter.fields).map(([name, field]) => [name, field.default]));
  const set = (i: number, name: string, next: ParameterValue, done: boolean) =>
    onChange(levels.with(i, { ...levels[i], [name]: next as number | string }), done);
  return (
    <Box role="group" aria-label={parameter.label} sx={{ mb: 1 }}>
      <LabelTip help={parameter.help}>
        <Typography>{parameter.label}</Typography>
      </LabelTip>
      {levels.map((level, i) => (
        <Box
          // biome-ignore lint/suspicious/noArrayIndexKey: levels are known by their order
          key={i}
          role="group"
          aria-label={`${parameter.label} ${i + 1}`}
          sx={{ borderLeft: 2, borderColor: 'divider', pl: 2, my: 1 }}
        >
          {Object.entries(parameter.fields).map(([name, field]) => (
            <ParameterControl
              key={name}
              name={name}
              parameter={field}
              value={level[name]}
              display={display}
              onChange={(next, done) => set(i, name, next, done)}
            />
          ))}
          {levels.length > parameter.least && (
            <Button size="small" color="inherit" onClick={() => onChange(levels.toSpliced(i, 1), true)} sx={{ px: 0 }}>
              Remove
            </Button>
          )}
        </Box>
      ))}
      {levels.length < parameter.most && (
        <Button
          size="small"
          color="inherit"
          onClick={() => onChange([...levels, levels.at(-1) ?? first], true)}
          sx={{ px: 0 }}
        >
          Add
        </Button>
      )}
    </Box>
  );
}

/** The control of every kind of parameter, under the kind's own name. */
export const CONTROLS: { [K in Parameter['kind']]: ComponentType<OfKind<K>> } = {
  length: NumberControl,
  angle: NumberControl,
  count: NumberControl,
  seed: NumberControl,
  ratio: NumberControl,
  rate: NumberControl,
  toggle: ToggleControl,
  choice: ChoiceControl,
  colour: ColourControl,
  pair: PairOf,
  point: PointControl,
  direction: DirectionControl,
  levels: LevelsControl,
  wheels: WheelsControl,
  ...REFERENCE_CONTROLS,
};

const Mixed = () => (
  <Typography variant="body2" color="textSecondary">
    mixed
  </Typography>
);
