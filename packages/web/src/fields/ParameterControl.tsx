import {
  type AlongValue,
  type DisplayUnit,
  greatest,
  isLane,
  isNumberParameter,
  isWhole,
  type NumberParameter,
  type Pair,
  type Parameter,
  type ParameterValue,
  whyUnmeasured,
} from '@kelp/core';
import {
  Box,
  Button,
  MenuItem,
  Select,
  Switch,
  ToggleButton,
  ToggleButtonGroup,
  Tooltip,
  Typography,
} from '@mui/material';
import { useId } from 'react';
import { useAppSelector } from '../app/store.js';
import { ColourInput } from './ColourInput.js';
import { NumberField } from './NumberField.js';
import { PairControl } from './PairControl.js';
import { lengthText, METRES, shownAs } from './units.js';

export interface ParameterControlProps {
  name: string;
  parameter: Parameter;
  value: ParameterValue;
  display: DisplayUnit;
  /** The lines that draw their values from a pair, and by which seed. */
  drawn?: { ids: ArrayLike<number>; seed: number };
  /** The things it stands for differ; `value` is that of one of them. */
  mixed?: boolean;
  /** `done` is false while a value is being dragged. */
  onChange(value: ParameterValue, done: boolean): void;
}

/** The control that a parameter's declaration asks for. */
export function ParameterControl(given: ParameterControlProps) {
  // a control without a gauge says why, where it says what it does
  const why = whyUnmeasured(given.parameter);
  const parameter = why ? { ...given.parameter, help: `${given.parameter.help} ${why}` } : given.parameter;
  const props = { ...given, parameter };
  if (isNumberParameter(parameter)) return <NumberControl {...props} parameter={parameter} />;
  switch (parameter.kind) {
    case 'toggle':
      return <ToggleControl {...props} />;
    case 'choice':
      return <ChoiceControl {...props} parameter={parameter} />;
    case 'colour':
      return <ColourControl {...props} />;
    case 'prop':
      return <PropControl {...props} />;
    case 'curves':
      return <CurvesControl {...props} />;
    case 'pair':
      return <PairControl {...props} parameter={parameter} value={given.value as Pair} />;
    case 'point':
      return <PointControl {...props} parameter={parameter} />;
    case 'piece':
      return <PieceControl {...props} />;
  }
}

type Of<P extends Parameter> = Omit<ParameterControlProps, 'parameter'> & { parameter: P };

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
      <Row label={parameter.label} help={parameter.help}>
        <Typography className="number" noWrap sx={{ flex: 1 }}>
          {text}
        </Typography>
        <Button
          size="small"
          color="inherit"
          sx={{ minWidth: 0, px: 1 }}
          onClick={() => onChange(greatest(along), true)}
        >
          Even
        </Button>
      </Row>
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
    <Row label={parameter.label} help={parameter.help}>
      <Switch
        size="small"
        checked={value === true}
        onChange={(_event, checked) => onChange(checked, true)}
        slotProps={{ input: { 'aria-label': parameter.label } }}
      />
      {mixed && <Mixed />}
    </Row>
  );
}

function ChoiceControl({ parameter, value, mixed, onChange }: Of<Extract<Parameter, { kind: 'choice' }>>) {
  return (
    <Row label={parameter.label} help={parameter.help}>
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
    </Row>
  );
}

function ColourControl({ parameter, value, mixed, onChange }: ParameterControlProps) {
  const id = useId();
  return (
    <Row label={parameter.label} help={parameter.help} htmlFor={id}>
      <ColourInput id={id} value={value as string} width={44} height={26} onChange={onChange} />
      {mixed ? (
        <Mixed />
      ) : (
        <Typography className="number" color="textSecondary">
          {value as string}
        </Typography>
      )}
    </Row>
  );
}

/** Stands for no prop at all: ids hold no spaces. */
const MIXED = 'mixed props';

function PropControl({ parameter, value, mixed, onChange }: ParameterControlProps) {
  const props = useAppSelector((state) => state.project.document?.props) ?? [];
  const known = value === '' || props.some((prop) => prop.id === value);
  return (
    <Row label={parameter.label} help={parameter.help}>
      <Select
        size="small"
        fullWidth
        displayEmpty
        value={mixed ? MIXED : (value as string)}
        onChange={(event) => onChange(event.target.value, true)}
        inputProps={{ 'aria-label': parameter.label }}
        sx={{ '& .MuiSelect-select': { py: '4px' } }}
      >
        {mixed && (
          <MenuItem value={MIXED} disabled>
            mixed
          </MenuItem>
        )}
        <MenuItem value="">Nearest prop</MenuItem>
        {props.map((prop) => (
          <MenuItem key={prop.id} value={prop.id}>
            {prop.name}
          </MenuItem>
        ))}
        {!known && <MenuItem value={value as string}>Deleted prop</MenuItem>}
      </Select>
    </Row>
  );
}

/** Three fields under one heading. */
function PointControl({ parameter, value, display, onChange }: Of<Extract<Parameter, { kind: 'point' }>>) {
  const point = value as readonly [number, number, number];
  return (
    <Box role="group" aria-label={parameter.label}>
      {(['X', 'Y', 'Z'] as const).map((axis, k) => (
        <NumberField
          key={axis}
          label={`${parameter.label} ${axis}`}
          help={parameter.help}
          value={point[k]}
          min={-1e6}
          max={1e6}
          comfortable={[-5, 5]}
          initial={parameter.default[k]}
          shown={{ factor: METRES[display], unit: display, digits: 2 }}
          onChange={(next, done) => onChange(point.with(k, next) as unknown as [number, number, number], done)}
        />
      ))}
    </Box>
  );
}

function PieceControl({ parameter, value, onChange }: ParameterControlProps) {
  const pieces = useAppSelector((state) => state.project.document?.pieces) ?? [];
  const own = useAppSelector((state) => state.view.piece);
  const known = value === '' || pieces.some((piece) => piece.id === value);
  return (
    <Row label={parameter.label} help={parameter.help}>
      <Select
        size="small"
        fullWidth
        displayEmpty
        value={value as string}
        onChange={(event) => onChange(event.target.value, true)}
        inputProps={{ 'aria-label': parameter.label }}
        sx={{ '& .MuiSelect-select': { py: '4px' } }}
      >
        <MenuItem value="">No piece yet</MenuItem>
        {pieces
          .filter((piece) => piece.id !== own)
          .map((piece) => (
            <MenuItem key={piece.id} value={piece.id}>
              {piece.name}
            </MenuItem>
          ))}
        {!known && <MenuItem value={value as string}>Deleted piece</MenuItem>}
      </Select>
    </Row>
  );
}

function CurvesControl({ parameter, value, onChange }: ParameterControlProps) {
  const curves = useAppSelector((state) => state.project.document?.curves) ?? [];
  return (
    <Row label={parameter.label} help={parameter.help}>
      <Select
        multiple
        size="small"
        fullWidth
        value={value as string[]}
        onChange={(event) => onChange(event.target.value as string[], true)}
        renderValue={(chosen) =>
          chosen.map((id) => curves.find((curve) => curve.id === id)?.name ?? 'Deleted curve').join(', ')
        }
        inputProps={{ 'aria-label': parameter.label }}
        sx={{ '& .MuiSelect-select': { py: '4px' } }}
      >
        {curves.map((curve) => (
          <MenuItem key={curve.id} value={curve.id}>
            {curve.name}
          </MenuItem>
        ))}
      </Select>
    </Row>
  );
}

const Mixed = () => (
  <Typography variant="body2" color="textSecondary">
    mixed
  </Typography>
);

/** Label on the left, control on the right, as wide as the number fields. */
function Row({
  label,
  help,
  htmlFor,
  children,
}: {
  label: string;
  help: string;
  htmlFor?: string;
  children: React.ReactNode;
}) {
  return (
    <Box
      sx={{ display: 'grid', gridTemplateColumns: '84px 1fr', gap: 2, alignItems: 'center', minHeight: 30, mb: 0.5 }}
    >
      <Tooltip title={help} placement="left">
        <Typography component="label" htmlFor={htmlFor} noWrap>
          {label}
        </Typography>
      </Tooltip>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 2, minWidth: 0 }}>{children}</Box>
    </Box>
  );
}
