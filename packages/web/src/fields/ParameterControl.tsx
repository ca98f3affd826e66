import {
  type AlongValue,
  type DisplayUnit,
  greatest,
  isLane,
  isNumberParameter,
  type NumberParameter,
  type Parameter,
  type ParameterValue,
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
import { NumberField } from './NumberField.js';
import { lengthText, shownAs } from './units.js';

export interface ParameterControlProps {
  parameter: Parameter;
  value: ParameterValue;
  display: DisplayUnit;
  /** `done` is false while a value is being dragged. */
  onChange(value: ParameterValue, done: boolean): void;
  onHover?(hovered: boolean): void;
}

/** The control that a parameter's declaration asks for. */
export function ParameterControl(props: ParameterControlProps) {
  const { parameter } = props;
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
  }
}

type Of<P extends Parameter> = Omit<ParameterControlProps, 'parameter'> & { parameter: P };

function NumberControl({ parameter, value, display, onChange, onHover }: Of<NumberParameter>) {
  const along = value as AlongValue;
  if (isLane(along)) {
    const values = along.knots.map((knot) => knot.value);
    const text =
      parameter.kind === 'length'
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
      whole={parameter.kind === 'count'}
      shown={shownAs(parameter, display)}
      onChange={onChange}
      onHover={onHover}
    />
  );
}

function ToggleControl({ parameter, value, onChange }: ParameterControlProps) {
  return (
    <Row label={parameter.label} help={parameter.help}>
      <Switch
        size="small"
        checked={value === true}
        onChange={(_event, checked) => onChange(checked, true)}
        slotProps={{ input: { 'aria-label': parameter.label } }}
      />
    </Row>
  );
}

function ChoiceControl({ parameter, value, onChange }: Of<Extract<Parameter, { kind: 'choice' }>>) {
  return (
    <Row label={parameter.label} help={parameter.help}>
      <ToggleButtonGroup
        exclusive
        size="small"
        value={value}
        onChange={(_event, next) => next !== null && onChange(next, true)}
        aria-label={parameter.label}
        sx={{ flex: 1 }}
      >
        {parameter.options.map((option) => (
          <ToggleButton key={option.value} value={option.value} sx={{ flex: 1, px: 0.5, whiteSpace: 'nowrap' }}>
            {option.label}
          </ToggleButton>
        ))}
      </ToggleButtonGroup>
    </Row>
  );
}

function ColourControl({ parameter, value, onChange }: ParameterControlProps) {
  const id = useId();
  return (
    <Row label={parameter.label} help={parameter.help} htmlFor={id}>
      <Box
        component="input"
        id={id}
        type="color"
        value={value as string}
        onChange={(event) => onChange(event.target.value.toLowerCase(), true)}
        sx={{
          width: 44,
          height: 26,
          p: 0,
          border: 1,
          borderColor: 'divider',
          borderRadius: '3px',
          background: 'none',
          cursor: 'pointer',
        }}
      />
      <Typography className="number" color="textSecondary">
        {value as string}
      </Typography>
    </Row>
  );
}

function PropControl({ parameter, value, onChange }: ParameterControlProps) {
  const props = useAppSelector((state) => state.project.document?.props) ?? [];
  const known = value === '' || props.some((prop) => prop.id === value);
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
