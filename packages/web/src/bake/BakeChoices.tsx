import { type BakeSettings, MERGES, type Merge, type Piece, TARGET_UNITS } from '@kelp/core';
import { BAKE_FORMATS, type BakeContent, type BakeFormat, lossesOf } from '@kelp/formats';
import {
  Box,
  Checkbox,
  FormControlLabel,
  ListItemText,
  MenuItem,
  Select,
  ToggleButton,
  ToggleButtonGroup,
  Typography,
} from '@mui/material';
import type { ReactNode } from 'react';
import { NumberField } from '../fields/NumberField.js';
import { TestCube } from './TestCube.js';

/** What is chosen in the panel: the settings, by which of its three measures it is made lighter, and the format. */
export interface Chosen {
  settings: BakeSettings;
  lighter: Lighter;
  format: BakeFormat;
}
export type Lighter = 'density' | 'within' | 'triangles';

/** Where the two other measures begin: metres, and triangles. */
export const FIRST_WITHIN = 0.001;
export const FIRST_TRIANGLES = 10_000;

const MERGE_WORDS: Record<Merge, string> = {
  slot: 'Piece',
  part: 'Part',
  material: 'Material',
  all: 'Single mesh',
};

/** What is not called by its ending in capitals. */
const FORMAT_WORDS: Partial<Record<BakeFormat, string>> = { gltf: 'glTF (text)' };

interface ChoicesProps {
  chosen: Chosen;
  onChange(next: Chosen): void;
  /** All pieces, and the slots of material of those that are baked. */
  pieces: readonly Piece[];
  slots: readonly string[];
  has: BakeContent;
  /** Triangles at full density: what a number of them is weighed against. */
  triangles: number;
}

/** What is baked, how fine, in which format and for what: from the first that anybody asks to the last. */
export function BakeChoices({ chosen, onChange, pieces, slots, has, triangles }: ChoicesProps) {
  const { settings, format, lighter } = chosen;
  const set = (part: Partial<BakeSettings>) => onChange({ ...chosen, settings: { ...settings, ...part } });
  const lost = lossesOf(format, has, settings);
  return (
    <>
      <Several
        label="Pieces"
        all="All visible pieces"
        values={settings.pieces}
        options={[...new Set(pieces.map(({ name }) => name))]}
        onChange={(names) => set({ pieces: names })}
      />
      {slots.length > 1 && (
        <Several
          label="Materials"
          all="All materials"
          values={settings.slots}
          options={slots}
          onChange={(names) => set({ slots: names })}
        />
      )}
      <ToggleButtonGroup
        exclusive
        fullWidth
        size="small"
        value={lighter}
        onChange={(_, next: Lighter | null) => next && onChange({ ...chosen, lighter: next })}
        aria-label="Level of detail"
        sx={{ mb: 1 }}
      >
        <ToggleButton value="density">Density</ToggleButton>
        <ToggleButton value="within">Error</ToggleButton>
        <ToggleButton value="triangles">Triangles</ToggleButton>
      </ToggleButtonGroup>
      {lighter === 'density' && (
        <NumberField
          narrow
          label="Density"
          help="Factor on the divisions of every piece; 1 bakes as set, 2 twice as fine."
          value={settings.density}
          min={0.05}
          max={20}
          comfortable={[0.25, 4]}
          initial={1}
          shown={{ factor: 1, unit: '×', digits: 2 }}
          onChange={(density) => set({ density })}
        />
      )}
      {lighter === 'within' && (
        <NumberField
          narrow
          label="Max error"
          help="Largest distance from the full surface; larger values make a coarser mesh."
          value={settings.within ?? FIRST_WITHIN}
          min={1e-5}
          max={1}
          comfortable={[0.0001, 0.01]}
          initial={FIRST_WITHIN}
          shown={{ factor: 0.001, unit: 'mm', digits: 2 }}
          onChange={(within) => set({ within })}
        />
      )}
      {lighter === 'triangles' && (
        <NumberField
          narrow
          whole
          label="Triangle limit"
          help="Total number of triangles in the bake; lower values make a coarser mesh."
          value={settings.triangles ?? FIRST_TRIANGLES}
          min={4}
          max={1e9}
          comfortable={[100, Math.max(1000, triangles)]}
          initial={FIRST_TRIANGLES}
          shown={{ factor: 1, unit: '', digits: 0 }}
          onChange={(count) => set({ triangles: count })}
        />
      )}
      <Row label="Group by">
        <Pick
          label="Group by"
          value={settings.merge}
          options={MERGES.map((value) => ({ value, label: MERGE_WORDS[value] }))}
          onChange={(merge) => set({ merge })}
        />
      </Row>
      <Row label="Format">
        <Pick
          label="Format"
          value={format}
          options={BAKE_FORMATS.map((value) => ({ value, label: FORMAT_WORDS[value] ?? value.toUpperCase() }))}
          onChange={(next) => onChange({ ...chosen, format: next })}
        />
      </Row>
      {lost.length > 0 && (
        <Box
          component="ul"
          aria-label="Limits of the format"
          sx={{ m: 0, mt: 1, pl: 3.5, color: 'text.secondary', fontSize: 12 }}
        >
          {lost.map((words) => (
            <li key={words}>{words}</li>
          ))}
        </Box>
      )}
      <Box component="details" sx={{ mt: 1.5, '& summary': { cursor: 'pointer', fontSize: 13 } }}>
        <summary>Target program</summary>
        <Row label="Unit">
          <Pick
            label="Unit"
            value={settings.unit}
            options={TARGET_UNITS.map((value) => ({ value, label: value }))}
            onChange={(unit) => set({ unit })}
          />
        </Row>
        <Row label="Up axis">
          <Pick
            label="Up axis"
            value={settings.up}
            options={[
              { value: 'y', label: '+Y' },
              { value: 'z', label: '+Z' },
            ]}
            onChange={(up) => set({ up })}
          />
        </Row>
        <Row label="Handedness">
          <Pick
            label="Handedness"
            value={settings.hand}
            options={[
              { value: 'right', label: 'Right-handed' },
              { value: 'left', label: 'Left-handed' },
            ]}
            onChange={(hand) => set({ hand })}
          />
        </Row>
        <Row label="Pivot">
          <Pick
            label="Pivot"
            value={settings.pivot}
            options={[
              { value: 'world', label: 'World origin' },
              { value: 'bottom', label: 'Underside' },
              { value: 'start', label: 'Line start' },
            ]}
            onChange={(pivot) => set({ pivot })}
          />
        </Row>
        <Tick label="Keep instances" on={settings.instances} onChange={(instances) => set({ instances })} />
        <Tick label="Include editable project (GLB)" on={settings.recipe} onChange={(recipe) => set({ recipe })} />
        <Tick label="Compress meshes (GLB, glTF)" on={settings.compress} onChange={(compress) => set({ compress })} />
        <Tick
          label="Frame sequence"
          on={settings.frames !== undefined}
          onChange={(on) => set({ frames: on ? { first: 0, last: 23, rate: 24 } : undefined })}
        />
        {settings.frames && <FrameFields frames={settings.frames} onChange={(frames) => set({ frames })} />}
        <TestCube format={format} settings={settings} />
      </Box>
    </>
  );
}

function FrameFields({
  frames,
  onChange,
}: {
  frames: NonNullable<BakeSettings['frames']>;
  onChange(frames: BakeSettings['frames']): void;
}) {
  const plain = { factor: 1, unit: '', digits: 0 };
  return (
    <>
      <NumberField
        narrow
        whole
        label="First frame"
        help="First frame of the sequence."
        value={frames.first}
        min={0}
        max={9998}
        comfortable={[0, 240]}
        initial={0}
        shown={plain}
        onChange={(first) => onChange({ ...frames, first, last: Math.max(first, frames.last) })}
      />
      <NumberField
        narrow
        whole
        label="Last frame"
        help="Last frame of the sequence, included."
        value={frames.last}
        min={frames.first}
        max={frames.first + 9999}
        comfortable={[0, 240]}
        initial={23}
        shown={plain}
        onChange={(last) => onChange({ ...frames, last })}
      />
      <NumberField
        narrow
        whole
        label="Frame rate"
        help="Frames per second."
        value={frames.rate}
        min={1}
        max={240}
        comfortable={[12, 60]}
        initial={24}
        shown={plain}
        onChange={(rate) => onChange({ ...frames, rate })}
      />
    </>
  );
}

/** Several of a list, or all of them. */
function Several({
  label,
  all,
  values,
  options,
  onChange,
}: {
  label: string;
  all: string;
  values: string[] | undefined;
  options: readonly string[];
  onChange(values: string[] | undefined): void;
}) {
  const there = values?.filter((value) => options.includes(value)) ?? [];
  return (
    <Select
      multiple
      size="small"
      fullWidth
      displayEmpty
      value={there}
      onChange={({ target }) => onChange(target.value.length > 0 ? [target.value].flat() : undefined)}
      renderValue={(names) =>
        names.length === 0 ? all : names.length === 1 ? names[0] : `${names.length} of ${options.length}`
      }
      inputProps={{ 'aria-label': label }}
      sx={{ mb: 2 }}
    >
      {options.map((name) => (
        <MenuItem key={name} value={name} dense>
          <Checkbox size="small" checked={there.includes(name)} sx={{ p: 0, mr: 2 }} />
          <ListItemText primary={name} />
        </MenuItem>
      ))}
    </Select>
  );
}

function Row({ label, children }: { label: string; children: ReactNode }) {
  return (
    <Box sx={{ display: 'flex', alignItems: 'center', gap: 2, mt: 1 }}>
      <Typography sx={{ flex: 1 }}>{label}</Typography>
      {children}
    </Box>
  );
}

function Pick<V extends string>({
  label,
  value,
  options,
  onChange,
}: {
  label: string;
  value: V;
  options: readonly { value: V; label: string }[];
  onChange(value: V): void;
}) {
  return (
    <Select
      size="small"
      value={value}
      onChange={({ target }) => onChange(target.value as V)}
      inputProps={{ 'aria-label': label }}
      sx={{ width: 132 }}
    >
      {options.map((option) => (
        <MenuItem key={option.value} value={option.value}>
          {option.label}
        </MenuItem>
      ))}
    </Select>
  );
}

function Tick({ label, on, onChange }: { label: string; on: boolean; onChange(on: boolean): void }) {
  return (
    <FormControlLabel
      sx={{ display: 'flex', mt: 0.5, ml: -1 }}
      control={<Checkbox size="small" checked={on} onChange={(_, next) => onChange(next)} sx={{ p: 1 }} />}
      label={label}
      slotProps={{ typography: { sx: { fontSize: 12.5 } } }}
    />
  );
}
