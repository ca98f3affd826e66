import {
  matchesSearch,
  type Piece,
  type Preset,
  SHELVES,
  type Shelf,
  searchText,
  type Unit,
  unitsOf,
} from '@kelp/core';
import { Box, InputBase, Paper, Typography } from '@mui/material';
import { type KeyboardEvent, useEffect, useMemo, useRef, useState } from 'react';
import { useAppDispatch, useAppSelector } from '../app/store.js';
import { useEvent } from '../state/use-event.js';
import { lockerOpened, presetTried } from '../state/view-slice.js';
import { COLOURS, NUMBER_FONT } from '../theme/colours.js';
import { PresetCard } from './Gallery.js';
import { takePreset } from './take-preset.js';

/** The pointer rests on a picture for so long before it is tried, milliseconds. */
const REST = 220;

interface Offer {
  unit: Unit<'make'>;
  preset: string;
  label: string;
}

const isNamed = (words: string, { label, synonyms = [] }: Preset) =>
  matchesSearch(words, [label, ...synonyms].join(' '));

/** All that can be made and matches the words, shelf by shelf. */
function shelves(words: string): [Shelf, Offer[]][] {
  return (Object.keys(SHELVES) as Shelf[]).map((shelf) => [
    shelf,
    unitsOf('make')
      .filter((unit) => (unit.shelf ?? 'swept') === shelf)
      .flatMap((unit) =>
        unit.presets
          .filter((preset) => matchesSearch(words, `${searchText(unit, preset.id)} ${SHELVES[shelf].label}`))
          // a preset that is called so comes before those whose unit is
          .map((preset) => ({ unit, preset: preset.id, label: preset.label, isCalledSo: isNamed(words, preset) })),
      )
      .sort((a, b) => Number(b.isCalledSo) - Number(a.isCalledSo)),
  ]);
}

/**
 * Everything that can run along a line, over the left of the view. Resting on a picture tries it on the chosen piece, a
 * click takes it, Escape leaves all as it was.
 */
export function Locker() {
  const open = useAppSelector((state) => state.view.locker);
  const chosen = useAppSelector((state) => state.view.piece);
  const piece = useAppSelector((state) => state.project.document?.pieces.find(({ id }) => id === chosen));
  return open && piece && !piece.locked ? <Sheet piece={piece} /> : null;
}

function Sheet({ piece }: { piece: Piece }) {
  const dispatch = useAppDispatch();
  const tried = useAppSelector((state) => state.view.tried);
  const [words, setWords] = useState('');
  const resting = useRef<ReturnType<typeof setTimeout>>(undefined);
  const sheet = useRef<HTMLDivElement>(null);
  const listed = useMemo(() => shelves(words), [words]);
  const all = listed.flatMap(([, offers]) => offers);
  const tryOn = useEvent((offer: Offer, rests: boolean) => {
    clearTimeout(resting.current);
    if (rests)
      resting.current = setTimeout(() => dispatch(presetTried({ unit: offer.unit.id, preset: offer.preset })), REST);
    else dispatch(presetTried(null));
  });
  useEffect(() => () => clearTimeout(resting.current), []);
  const close = () => {
    dispatch(lockerOpened(false));
    // back to the door
    setTimeout(() => document.querySelector<HTMLElement>('button[aria-expanded][data-door="locker"]')?.focus());
  };
  const take = useEvent((unit: string, preset: string) => {
    dispatch(takePreset(piece, unit, preset));
    close();
  });
  const onKey = (event: KeyboardEvent) => {
    if (event.key === 'Escape') {
      event.stopPropagation();
      close();
      return;
    }
    const cards = [...(sheet.current?.querySelectorAll<HTMLElement>('[data-preset]') ?? [])];
    const next = walked(cards, document.activeElement, event.key);
    if (!next) return;
    event.preventDefault();
    next.focus();
  };
  const name = all.find(({ unit, preset }) => unit.id === tried?.unit && preset === tried.preset)?.label;
  return (
    <>
      <Paper
        ref={sheet}
        square
        role="dialog"
        aria-label="Locker"
        onKeyDown={onKey}
        elevation={3}
        sx={{
          position: 'absolute',
          left: 0,
          top: 0,
          // no taller than what it holds: what is tried is seen beside it and below it
          maxHeight: '100%',
          width: 404,
          maxWidth: '80%',
          zIndex: 7,
          overflowY: 'auto',
          p: 4,
        }}
      >
        <Box sx={{ display: 'flex', alignItems: 'center', gap: 3, mb: 2 }}>
          <Typography variant="h2">Locker</Typography>
          <InputBase
            autoFocus
            value={words}
            onChange={(event) => setWords(event.target.value)}
            placeholder="Search: hose, zipper, fur …"
            inputProps={{ 'aria-label': 'Search the locker' }}
            sx={{ flex: 1, px: 2, border: 1, borderColor: 'divider', borderRadius: '3px', fontSize: 13, height: 28 }}
          />
        </Box>
        <Typography variant="body2" color="textSecondary" sx={{ mb: 2 }}>
          Hover over a picture to preview it on {piece.name}; click to use it, Esc to cancel.
        </Typography>
        {all.length === 0 && <Typography>No match in the Locker.</Typography>}
        {listed.map(
          ([shelf, offers]) =>
            offers.length > 0 && (
              <Box component="section" key={shelf} aria-label={SHELVES[shelf].label} sx={{ mb: 3 }}>
                <Typography component="h3" sx={{ fontWeight: 600, mb: 1 }}>
                  {SHELVES[shelf].label}{' '}
                  <Typography component="span" variant="body2" color="textSecondary">
                    {SHELVES[shelf].words}
                  </Typography>
                </Typography>
                <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr 1fr', gap: 2 }}>
                  {offers.map((offer) => (
                    <PresetCard
                      key={`${offer.unit.id} ${offer.preset}`}
                      unit={offer.unit.id}
                      preset={offer.preset}
                      label={offer.label}
                      isChosen={tried?.unit === offer.unit.id && tried.preset === offer.preset}
                      onTake={take}
                      onRest={(rests) => tryOn(offer, rests)}
                    />
                  ))}
                </Box>
              </Box>
            ),
        )}
      </Paper>
      {name && (
        <Box
          role="status"
          aria-label="Preview"
          sx={{
            position: 'absolute',
            left: 420,
            top: 60,
            zIndex: 6,
            px: 2,
            py: 0.5,
            background: COLOURS.tide,
            color: COLOURS.onInk,
            font: `12px ${NUMBER_FONT}`,
            borderRadius: '2px',
          }}
        >
          preview: {name}
        </Box>
      )}
    </>
  );
}

/** The card that an arrow key goes to: the next one in its row, or the nearest in the row below or above. */
function walked(cards: readonly HTMLElement[], from: Element | null, key: string): HTMLElement | undefined {
  const at = cards.indexOf(from as HTMLElement);
  // out of the words, down to the first picture
  if (at < 0) return key === 'ArrowDown' ? cards[0] : undefined;
  if (key === 'ArrowRight') return cards[at + 1];
  if (key === 'ArrowLeft') return cards[at - 1];
  if (key !== 'ArrowDown' && key !== 'ArrowUp') return undefined;
  const here = cards[at].getBoundingClientRect();
  const way = key === 'ArrowDown' ? 1 : -1;
  const beyond = cards.filter((card) => way * (card.getBoundingClientRect().top - here.top) > 4);
  const far = (card: HTMLElement) => {
    const { left, top } = card.getBoundingClientRect();
    return 10 * Math.abs(top - here.top) + Math.abs(left - here.left);
  };
  return beyond.reduce<HTMLElement | undefined>(
    (best, card) => (!best || far(card) < far(best) ? card : best),
    undefined,
  );
}
