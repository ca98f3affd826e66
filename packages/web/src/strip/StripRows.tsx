import {
  type AlongValue,
  type BendProfile,
  type DisplayUnit,
  isLane,
  type KelpDocument,
  type Piece,
  type Region,
  type Walkable,
  withParameter,
  withPiece,
} from '@kelp/core';
import { Box, Button } from '@mui/material';
import { type KeyboardEvent, type PointerEvent, useEffect, useMemo, useRef, useState } from 'react';
import { useAppDispatch } from '../app/store.js';
import { lengthText, round } from '../fields/units.js';
import { editPieces, wordsFor } from '../manifest/piece-edits.js';
import { edit } from '../state/edits.js';
import { gestureEnded } from '../state/project-slice.js';
import { useEvent } from '../state/use-event.js';
import { COLOURS, NUMBER_FONT } from '../theme/colours.js';
import { axisOf, panned, type Span, WHOLE, zoomed } from './axis.js';
import { BendRow } from './BendRow.js';
import { setCursor, useCursor } from './cursor.js';
import { LaneMenu } from './LaneMenu.js';
import { LaneRow } from './LaneRow.js';
import { lanesOf, shownLanes } from './lanes.js';
import { drivenBy, regionAbout, withoutUnusedRegions, withRegion } from './region-edits.js';
import { StripAxis } from './StripAxis.js';
import type { MarkRow, PointMark } from './shares.js';

/** Width of the labels on the left and the margin on the right, pixels. */
const LEFT = 150;
const RIGHT = 24;
const ROW = 40;
const NONE: readonly AlongValue[] = [];
/** Lanes that were asked for, by key: they stay from piece to piece while the page is open. */
let askedFor: ReadonlySet<string> = new Set();

interface StripRowsProps {
  piece: Piece;
  /** Other chosen pieces: a lane changed here is changed for those that have it too. */
  others: readonly Piece[];
  bends: readonly BendProfile[];
  /** Metres; null where lines of several lengths share the axis. */
  length: number | null;
  marks: readonly PointMark[];
  /** Where the rings of the section stand, as shares. */
  rings: readonly number[];
  rows: readonly MarkRow[];
  width: number;
  display: DisplayUnit;
  regions: readonly Region[];
  /** The piece's line. */
  guide: Walkable;
}

/** The axis, a row for each lane, and the bend radius. The wheel zooms about the pointer, with Shift it goes along. */
export function StripRows({
  piece,
  others,
  bends,
  length,
  marks,
  rings,
  rows,
  width,
  display,
  regions,
  guide,
}: StripRowsProps) {
  const dispatch = useAppDispatch();
  const cursor = useCursor();
  const [span, setSpan] = useState<Span>(WHOLE);
  const frame = useRef<HTMLDivElement>(null);
  const axis = useMemo(() => axisOf(LEFT, width - LEFT - RIGHT, span), [width, span]);
  const whole = span.from === 0 && span.to === 1;
  const text = (share: number) =>
    length === null ? `${round(share * 100, 1)} %` : lengthText(share * length, display);
  const lanes = lanesOf(piece);
  const [asked, setAsked] = useState(askedFor);
  const shown = shownLanes(lanes, asked);
  const hidden = lanes.filter((lane) => !shown.includes(lane));
  const theirs = others.map((other) => ({ other, lanes: lanesOf(other) }));
  const inOthers = (key: string) => theirs.flatMap(({ lanes: all }) => all.find((lane) => lane.key === key) ?? []);
  const change = useEvent((key: string, value: AlongValue, done: boolean) => {
    const lane = lanes.find((candidate) => candidate.key === key);
    if (!lane) return;
    const places = new Map([[piece.id, lane.place]]);
    for (const { other, lanes: all } of theirs) {
      const same = all.find((candidate) => candidate.key === key);
      if (same) places.set(other.id, same.place);
    }
    const all = [...others, piece].filter(({ id }) => places.has(id));
    dispatch(
      editPieces(
        all,
        `${lane.label} along ${wordsFor(all)}`,
        (now) => withParameter(now, places.get(now.id)!, lane.name, value),
        `${piece.id} lane ${key}`,
      ),
    );
    if (isLane(lane.value) && lane.value.region && !(isLane(value) && value.region))
      dispatch(edit(`${lane.label} along ${wordsFor(all)}`, withoutUnusedRegions, `${piece.id} lane ${key}`));
    if (done) dispatch(gestureEnded());
  });
  const drive = useEvent((key: string, id: string | undefined) => {
    const lane = lanes.find((candidate) => candidate.key === key);
    if (!lane) return;
    const change = (document: KelpDocument) => {
      const made = id === undefined ? regionAbout(document, guide, length ?? lengthOf(guide)) : undefined;
      const value = drivenBy(lane.value, lane.parameter, made?.id ?? id ?? '');
      const driven = withPiece(document, piece.id, (now) => withParameter(now, lane.place, lane.name, value));
      return made ? { ...driven, regions: [...driven.regions, made] } : withoutUnusedRegions(driven);
    };
    dispatch(edit(`${lane.label} of ${piece.name} by a region`, change));
  });
  const form = useEvent((id: string, next: Region['form']) =>
    dispatch(
      edit('Shape of a region', (document) => withRegion(document, id, (region) => ({ ...region, form: next }))),
    ),
  );
  const live = useRef(axis);
  live.current = axis;
  useEffect(() => {
    const element = frame.current;
    if (!element) return;
    const wheel = (event: WheelEvent) => {
      const x = event.clientX - element.getBoundingClientRect().left;
      const { left, width: wide, span: now, share } = live.current;
      // beside the course the wheel scrolls the rows
      if (x < left || x > left + wide) return;
      event.preventDefault();
      const turned = event.deltaY || event.deltaX;
      setSpan(
        event.shiftKey || event.deltaY === 0 ? panned(now, turned / 800) : zoomed(now, share(x), 1.0015 ** turned),
      );
    };
    element.addEventListener('wheel', wheel, { passive: false });
    return () => element.removeEventListener('wheel', wheel);
  }, []);
  const track = (event: PointerEvent<HTMLDivElement>) => {
    const share = axis.share(event.clientX - event.currentTarget.getBoundingClientRect().left);
    setCursor(share >= span.from && share <= span.to ? share : null);
  };
  const onKey = (event: KeyboardEvent) => {
    const middle = (span.from + span.to) / 2;
    const next = {
      '+': zoomed(span, middle, 0.7),
      '-': zoomed(span, middle, 1 / 0.7),
      ArrowLeft: panned(span, -0.2),
      ArrowRight: panned(span, 0.2),
      '0': WHOLE,
    }[event.key];
    if (!next) return;
    event.preventDefault();
    event.stopPropagation();
    setSpan(next);
  };
  return (
    <Box
      ref={frame}
      onPointerMove={track}
      onPointerLeave={() => setCursor(null)}
      sx={{ position: 'relative', pt: 0.5, userSelect: 'none' }}
    >
      <Box
        tabIndex={0}
        role="group"
        aria-label="Length axis: + and − zoom, arrow keys scroll, 0 shows all"
        onKeyDown={onKey}
        sx={{ '&:focus-visible': { outline: `2px solid ${COLOURS.tide}`, outlineOffset: -2 } }}
      >
        <StripAxis axis={axis} width={width} length={length} text={text} marks={marks} rings={rings} rows={rows} />
      </Box>
      {!whole && (
        <Button
          size="small"
          color="inherit"
          onClick={() => setSpan(WHOLE)}
          sx={{ position: 'absolute', left: 8, top: 0, minHeight: 22, px: 1 }}
        >
          Whole length
        </Button>
      )}
      {shown.map(({ key, label, parameter, value }) => {
        const same = inOthers(key);
        return (
          <LaneRow
            key={key}
            name={key}
            label={label}
            parameter={parameter}
            value={value}
            others={same.length === 0 ? NONE : same.map((lane) => lane.value)}
            axis={axis}
            right={RIGHT}
            length={length}
            height={ROW}
            display={display}
            regions={regions}
            onDrive={drive}
            onForm={form}
            onChange={change}
          />
        );
      })}
      {bends.length > 0 && <BendRow bends={bends} axis={axis} right={RIGHT} height={ROW} display={display} />}
      {hidden.length > 0 && (
        <LaneMenu
          lanes={hidden}
          onShow={(key) => {
            askedFor = new Set(askedFor).add(key);
            setAsked(askedFor);
          }}
        />
      )}
      {cursor !== null && cursor >= span.from && cursor <= span.to && (
        <Box
          aria-hidden
          sx={{
            position: 'absolute',
            left: axis.x(cursor),
            top: 4,
            bottom: 0,
            borderLeft: `1px solid ${COLOURS.ink}`,
            pointerEvents: 'none',
          }}
        >
          <Box
            sx={{
              position: 'absolute',
              bottom: 2,
              left: 4,
              background: COLOURS.ink,
              color: COLOURS.onInk,
              font: `11px ${NUMBER_FONT}`,
              px: 1,
              borderRadius: '2px',
              whiteSpace: 'nowrap',
            }}
          >
            {text(cursor)}
          </Box>
        </Box>
      )}
    </Box>
  );
}

/** Of the first line, metres. */
function lengthOf({ position, start }: Walkable): number {
  let sum = 0;
  for (let p = start[0] + 1; p < start[1]; p++)
    sum += Math.hypot(...[0, 1, 2].map((n) => position[3 * p + n] - position[3 * p - 3 + n]));
  return sum;
}
