import { type AlongValue, isLane, type Region, valueAt } from '@kelp/core';
import { Divider, MenuItem } from '@mui/material';

interface RegionItemsProps {
  value: AlongValue;
  regions: readonly Region[];
  /** In a region, or undefined for a new one. */
  onDrive(region: string | undefined): void;
  onForm(region: string, form: Region['form']): void;
  /** Over the length again. */
  onFree(value: number): void;
}

/** What a number may be driven by beside its course over the length: a region of the project, or a new one. */
export function regionItems({ value, regions, onDrive, onForm, onFree }: RegionItemsProps) {
  const driving = isLane(value) ? regions.find(({ id }) => id === value.region) : undefined;
  const other = driving?.form === 'ball' ? 'box' : 'ball';
  return [
    <Divider key="line" />,
    ...regions
      .filter(({ id }) => id !== driving?.id)
      .map(({ id, name }) => (
        <MenuItem key={id} onClick={() => onDrive(id)}>
          By region “{name}”
        </MenuItem>
      )),
    <MenuItem key="new" onClick={() => onDrive(undefined)}>
      By new region…
    </MenuItem>,
    driving && (
      <MenuItem key="form" onClick={() => onForm(driving.id, other)}>
        Make “{driving.name}” a {other}
      </MenuItem>
    ),
    isLane(value) && value.region && (
      <MenuItem key="free" onClick={() => onFree(valueAt(value, 0))}>
        Constant
      </MenuItem>
    ),
  ];
}
