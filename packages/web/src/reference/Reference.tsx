import {
  GAUGES,
  gaugeOf,
  isNumberParameter,
  type PairParameter,
  type Parameter,
  STAGES,
  type Unit,
  unitsOf,
  whyUnmeasured,
} from '@kelp/core';
import { Box, Link as PageLink, Table, TableBody, TableCell, TableHead, TableRow, Typography } from '@mui/material';
import { Link } from 'react-router';
import { lengthText, round, shownAs } from '../fields/units.js';
import { UnitPicture } from './UnitPicture.js';

/** Every unit with every number: what it does, how it starts, how far it goes. Written by their own declarations. */
export function Reference() {
  return (
    <Box component="main" sx={{ maxWidth: 1000, mx: 'auto', px: 6, py: 8 }}>
      <PageLink component={Link} to="/">
        Projects
      </PageLink>
      <Typography variant="h1" sx={{ mt: 2, mb: 4 }}>
        Reference
      </Typography>
      <Box component="nav" aria-label="Units" sx={{ display: 'flex', flexWrap: 'wrap', gap: 3, mb: 6 }}>
        {STAGES.flatMap((stage) => unitsOf(stage)).map(({ id, label }) => (
          <PageLink key={id} href={`#${id}`}>
            {label}
          </PageLink>
        ))}
      </Box>
      {STAGES.map((stage) => (
        <Box component="section" key={stage} aria-label={stage}>
          <Typography variant="h2" sx={{ textTransform: 'capitalize', mt: 6, mb: 2 }}>
            {stage}
          </Typography>
          {unitsOf(stage).map((unit) => (
            <UnitEntry key={unit.id} unit={unit as unknown as Unit} />
          ))}
        </Box>
      ))}
    </Box>
  );
}

function UnitEntry({ unit }: { unit: Unit }) {
  return (
    <Box id={unit.id} component="article" sx={{ mb: 6, scrollMarginTop: 16 }}>
      <Box sx={{ display: 'flex', gap: 4, alignItems: 'flex-end', mb: 2 }}>
        <UnitPicture stage={unit.stage} unit={unit.id} label={unit.label} />
        <Box>
          <Typography variant="h3" sx={{ fontSize: 16, fontWeight: 650 }}>
            {unit.label}
          </Typography>
          <Typography>{unit.purpose}</Typography>
        </Box>
      </Box>
      <Table size="small" aria-label={`Parameters of ${unit.label}`}>
        <TableHead>
          <TableRow>
            <TableCell sx={{ width: 150 }}>Parameter</TableCell>
            <TableCell>Description</TableCell>
            <TableCell sx={{ width: 130 }}>Default</TableCell>
            <TableCell sx={{ width: 190 }}>Limits</TableCell>
            <TableCell sx={{ width: 190 }}>Gauge</TableCell>
          </TableRow>
        </TableHead>
        <TableBody>
          {Object.entries(unit.parameters).map(([name, parameter]) => (
            <TableRow key={name}>
              <TableCell>{parameter.label}</TableCell>
              <TableCell>
                {parameter.help}
                {'along' in parameter && parameter.along && ' May vary along the length.'}
              </TableCell>
              <TableCell className="number">{firstOf(parameter)}</TableCell>
              <TableCell className="number">{limitsOf(parameter)}</TableCell>
              <TableCell>{gaugeWords(parameter)}</TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
      <Typography variant="body2" color="textSecondary" sx={{ mt: 1 }}>
        Presets: {unit.presets.map(({ label }) => label).join(', ')}.
      </Typography>
    </Box>
  );
}

function gaugeWords(parameter: Parameter): string | undefined {
  const gauge = gaugeOf(parameter);
  return gauge ? GAUGES[gauge.kind] : whyUnmeasured(parameter);
}

function shown(parameter: Parameter, value: number): string {
  if (!isNumberParameter(parameter)) return '';
  // a limit of a few hundredths would read as none
  if (parameter.kind === 'length' && value !== 0 && Math.abs(value) < 1e-4)
    return `${+(value * 1000).toPrecision(2)} mm`;
  if (parameter.kind === 'length') return lengthText(value, 'mm');
  const { factor, unit, digits } = shownAs(parameter, 'mm');
  return `${round(value / factor, digits)}${unit ? ` ${unit}` : ''}`;
}

function pairShown(parameter: PairParameter, value: number): string {
  const { factor, unit, digits } = shownAs(parameter, 'mm');
  return `${round(value / factor, digits)} ${unit}`;
}

function firstOf(parameter: Parameter): string {
  if (isNumberParameter(parameter)) return shown(parameter, parameter.default);
  switch (parameter.kind) {
    case 'choice':
      return parameter.options.find(({ value }) => value === parameter.default)?.label ?? parameter.default;
    case 'toggle':
      return parameter.default ? 'on' : 'off';
    case 'colour':
      return parameter.default;
    case 'pair':
      return `${pairShown(parameter, parameter.default.least)} to ${pairShown(parameter, parameter.default.most)}`;
    case 'point':
      return parameter.default.join(', ');
    default:
      return '–';
  }
}

function limitsOf(parameter: Parameter): string {
  if (isNumberParameter(parameter)) {
    // this many turns that nobody will meet the limit
    if (parameter.kind === 'angle' && parameter.max - parameter.min > 100) return 'any';
    return `${shown(parameter, parameter.min)} to ${shown(parameter, parameter.max)}`;
  }
  if (parameter.kind === 'pair')
    return `${pairShown(parameter, parameter.min)} to ${pairShown(parameter, parameter.max)}`;
  if (parameter.kind === 'choice') return parameter.options.map(({ label }) => label).join(', ');
  return '';
}
