import {
  type AnchorPick,
  freeName,
  type KelpDocument,
  type LinkChange,
  type Profile,
  type Prop,
  profilePicture,
  tidyName,
} from '@kelp/core';
import { Box, Button, MenuItem, Select, Typography } from '@mui/material';
import { lazy, type ReactNode, Suspense, useState } from 'react';
import { useAppSelector } from '../app/store.js';
import { FIRST } from '../profile/profile-edits.js';
import { newId } from '../state/edits.js';
import { anchorNames } from '../strung/link-edits.js';
import { ControlRow } from './ControlRow.js';
import { FileButton } from './FileButton.js';
import type { ParameterControlProps } from './ParameterControl.js';
import { PickList } from './PickList.js';

// Controls that name things of the project: picked from a list, never typed.

type ListName = 'props' | 'pieces' | 'curves' | 'profiles' | 'regions' | 'pictures';

interface Named {
  id: string;
  name: string;
}

const NONE: readonly Named[] = [];

function useListed(list: ListName): readonly Named[] {
  const named = useAppSelector((state) => (state.project.document as KelpDocument | null)?.[list]) ?? NONE;
  const own = useAppSelector((state) => state.view.piece);
  // a piece that named itself would wait for itself
  return list === 'pieces' ? named.filter(({ id }) => id !== own) : named;
}

interface Listed extends ParameterControlProps {
  list: ListName;
  /** What one of them is called. */
  thing: string;
}

/** One thing of a list, or none; `none` says what that means. */
function PickOne({ list, thing, none, ...shown }: Listed & { none: string; picture?(id: string): string }) {
  const value = shown.value as string;
  const options = [{ value: '', label: none }, ...useListed(list).map(({ id, name }) => ({ value: id, label: name }))];
  if (!options.some((option) => option.value === value)) options.push({ value, label: `Deleted ${thing}` });
  return <PickList {...shown} value={value} options={options} />;
}

/** Several things of a list, in the order picked. */
function PickMany({ parameter, value, onChange, list, thing }: Listed) {
  const named = useListed(list);
  return (
    <ControlRow label={parameter.label} help={parameter.help}>
      <Select
        multiple
        size="small"
        fullWidth
        value={value as string[]}
        onChange={(event) => onChange(event.target.value as string[], true)}
        renderValue={(chosen) =>
          chosen.map((id) => named.find((one) => one.id === id)?.name ?? `Deleted ${thing}`).join(', ')
        }
        inputProps={{ 'aria-label': parameter.label }}
        sx={{ '& .MuiSelect-select': { py: '4px' } }}
      >
        {named.map(({ id, name }) => (
          <MenuItem key={id} value={id}>
            {name}
          </MenuItem>
        ))}
      </Select>
    </ControlRow>
  );
}

/** Props, pieces and lines to fasten to, in the order picked. */
function AnchorsControl({ parameter, value, onChange }: ParameterControlProps) {
  const props = useListed('props');
  const pieces = useListed('pieces');
  const curves = useListed('curves');
  const picks = value as readonly AnchorPick[];
  const there = useAppSelector((state) => state.project.document?.props) ?? NO_PROPS;
  const placed = new Map(there.map(({ id, placement }) => [id, placement.position]));
  const all = [
    ...props.map((one) => ({ on: 'prop' as const, ...one })),
    ...pieces.map((one) => ({ on: 'piece' as const, ...one })),
    ...curves.map((one) => ({ on: 'curve' as const, ...one })),
  ];
  const words = (pick: AnchorPick) =>
    pick.on === 'place'
      ? `Point ${1 + picks.filter(({ on }) => on === 'place').indexOf(pick)}`
      : (all.find(({ on, id }) => on === pick.on && id === pick.id)?.name ?? `deleted ${pick.on}`);
  return (
    <Box role="group" aria-label={parameter.label}>
      <ControlRow label={parameter.label} help={parameter.help}>
        <Select
          size="small"
          fullWidth
          displayEmpty
          value=""
          renderValue={() => 'Add…'}
          onChange={(event) => {
            const [on, id] = event.target.value.split(' ');
            const was = on === 'prop' ? placed.get(id) : undefined;
            onChange([...picks, { on, id, ...(was ? { was } : {}) } as AnchorPick], true);
          }}
          inputProps={{ 'aria-label': `Add to ${parameter.label}` }}
          sx={{ '& .MuiSelect-select': { py: '4px' } }}
        >
          {all.map(({ on, id, name }) => (
            <MenuItem key={`${on} ${id}`} value={`${on} ${id}`}>
              {name}
            </MenuItem>
          ))}
        </Select>
      </ControlRow>
      {picks.map((pick, i) => (
        <Button
          // biome-ignore lint/suspicious/noArrayIndexKey: one thing may be picked twice
          key={i}
          size="small"
          color="inherit"
          onClick={() => onChange(picks.toSpliced(i, 1), true)}
          aria-label={`Remove ${words(pick)}`}
        >
          {i + 1}. {words(pick)} ×
        </Button>
      ))}
    </Box>
  );
}

const NO_PROPS: readonly Prop[] = [];

/** Single connections that were changed by hand; each can be put back. */
function LinksControl({ parameter, value, onChange }: ParameterControlProps) {
  const document = useAppSelector((state) => state.project.document);
  const piece = useAppSelector((state) => state.project.document?.pieces.find(({ id }) => id === state.view.piece));
  const changes = value as readonly LinkChange[];
  const names = document && piece ? anchorNames(document, piece) : new Map<number, string>();
  const nameOf = (key: number | undefined) => names.get(key ?? -1) ?? 'a point';
  const words = ({ from, to, how, instead }: LinkChange) =>
    how === 'led'
      ? `${nameOf(from)}, redirected to ${nameOf(instead)}`
      : `${nameOf(from)} to ${nameOf(to)}, ${how === 'out' ? 'removed' : 'added'}`;
  return (
    <Box role="group" aria-label={parameter.label} sx={{ mb: 1 }}>
      <Typography variant="body2" color="textSecondary">
        {changes.length === 0 ? 'No line was edited by hand.' : 'Edited by hand; click to reset:'}
      </Typography>
      {changes.map((change, i) => (
        <Button
          key={`${change.from} ${change.to}`}
          size="small"
          color="inherit"
          onClick={() => onChange(changes.toSpliced(i, 1), true)}
          aria-label={`Reset ${words(change)}`}
          sx={{ px: 0, textAlign: 'left' }}
        >
          {words(change)} ×
        </Button>
      ))}
    </Box>
  );
}

const NO_PROFILES: readonly Profile[] = [];
const NOTHING: Profile = { id: '', name: '', paths: [] };

/** The drawing board is loaded by who draws. */
const ProfileDialog = lazy(async () => ({ default: (await import('../profile/ProfileDialog.js')).ProfileDialog }));

/** A profile of the project: picked, drawn on a board, or brought by a drawing. */
function ProfileControl(props: ParameterControlProps) {
  const { onChange } = props;
  const profiles = useListed('profiles');
  const display = useAppSelector((state) => state.project.document?.displayUnit ?? 'mm');
  const [problem, setProblem] = useState<string | null>(null);
  const [drawn, setDrawn] = useState<Profile | null>(null);
  const all = useAppSelector((state) => state.project.document?.profiles) ?? NO_PROFILES;
  const chosen = all.find(({ id }) => id === props.value);
  const keep = (profile: Profile) => {
    setDrawn(null);
    onChange(profile.id, true, (document) => ({
      ...document,
      profiles: document.profiles.some(({ id }) => id === profile.id)
        ? document.profiles.map((old) => (old.id === profile.id ? profile : old))
        : [...document.profiles, profile],
    }));
  };
  const remove = () => {
    setDrawn(null);
    onChange('', true, (document) => ({
      ...document,
      profiles: document.profiles.filter(({ id }) => id !== drawn?.id),
    }));
  };
  const take = async (file: File) => {
    setProblem(null);
    try {
      // what reads drawings is loaded by who needs it
      const [{ readApart }, { profileOf }] = await Promise.all([
        import('../importing/reader-thread.js'),
        import('@kelp/formats'),
      ]);
      const read = await readApart(file, true);
      if (read.kind !== 'curves') throw new Error(`${file.name} has no outlines. Choose an SVG drawing.`);
      const name = freeName(tidyName(file.name.replace(/\.[^.]*$/, ''), 'Profile'), profiles);
      const profile = profileOf(read.file, newId(), name);
      onChange(profile.id, true, (document) => ({ ...document, profiles: [...document.profiles, profile] }));
    } catch (error) {
      setProblem((error as Error).message);
    }
  };
  return (
    <>
      <PickOne
        {...props}
        list="profiles"
        thing="profile"
        none="No profile"
        picture={(id) => profilePicture(all.find((one) => one.id === id) ?? NOTHING)}
      />
      <Box sx={{ display: 'flex', justifyContent: 'flex-end', gap: 1, mb: 1 }}>
        {chosen && (
          <Button size="small" color="inherit" onClick={() => setDrawn(chosen)}>
            Edit…
          </Button>
        )}
        <Button
          size="small"
          color="inherit"
          onClick={() => setDrawn({ id: newId(), name: freeName('Profile', profiles), paths: FIRST })}
        >
          Draw…
        </Button>
        <FileButton
          label="From SVG…"
          inputLabel="SVG file with a profile"
          accept=".svg"
          onChoose={(file) => void take(file)}
        />
      </Box>
      {problem && (
        <Typography role="alert" variant="body2" color="error" sx={{ mb: 1 }}>
          {problem}
        </Typography>
      )}
      {drawn && (
        <Suspense>
          <ProfileDialog
            profile={drawn}
            known={drawn === chosen}
            display={display}
            onDone={keep}
            onDelete={remove}
            onClose={() => setDrawn(null)}
          />
        </Suspense>
      )}
    </>
  );
}

type Control = (props: ParameterControlProps) => ReactNode;

export const REFERENCE_CONTROLS = {
  prop: ((props) => <PickOne {...props} list="props" thing="prop" none="Nearest prop" />) as Control,
  piece: ((props) => <PickOne {...props} list="pieces" thing="piece" none="No piece" />) as Control,
  profile: ProfileControl as Control,
  region: ((props) => <PickOne {...props} list="regions" thing="region" none="Everywhere" />) as Control,
  picture: ((props) => <PickOne {...props} list="pictures" thing="picture" none="No image" />) as Control,
  curves: ((props) => <PickMany {...props} list="curves" thing="line" />) as Control,
  props: ((props) => <PickMany {...props} list="props" thing="prop" />) as Control,
  pieces: ((props) => <PickMany {...props} list="pieces" thing="piece" />) as Control,
  anchors: AnchorsControl as Control,
  links: LinksControl as Control,
};
