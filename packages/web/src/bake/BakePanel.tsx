import { type BakeSettings, type Measures, type Part, type Piece, PLAIN_SETTINGS } from '@kelp/core';
import type { BakeContent } from '@kelp/formats';
import { Box, Button, LinearProgress, Typography } from '@mui/material';
import { lazy, Suspense, useEffect, useRef, useState } from 'react';
import { api, type BakeState } from '../api/client.js';
import { useAppDispatch, useAppSelector } from '../app/store.js';
import { useComputed } from '../evaluation/EvaluationProvider.js';
import { DRAFT_DENSITY, type PieceBuild } from '../evaluation/protocol.js';
import { bytesText, countText } from '../fields/units.js';
import { PanelHead } from '../manifest/PanelHead.js';
import { bakingShown } from '../state/view-slice.js';
import { COLOURS } from '../theme/colours.js';
import { BakeChoices, type Chosen, FIRST_TRIANGLES, FIRST_WITHIN } from './BakeChoices.js';
import { BakeHistory } from './BakeHistory.js';

// charts are much code for one place
const CostChart = lazy(async () => ({ default: (await import('./CostChart.js')).CostChart }));

/** Counts before, the bake itself with progress and cancel, and the files made so far. */
export function BakePanel() {
  const dispatch = useAppDispatch();
  const project = useAppSelector((state) => state.project.id);
  const document = useAppSelector((state) => state.project.document);
  const { revision, save } = useAppSelector((state) => state.project);
  const builds = useComputed('builds');
  const busy = useComputed('busy');
  const [chosen, setChosen] = useState<Chosen>({ settings: PLAIN_SETTINGS, lighter: 'density', format: 'glb' });
  const [bakes, setBakes] = useState<BakeState[]>([]);
  const [problem, setProblem] = useState<string | null>(null);
  useEffect(() => {
    if (!project) return undefined;
    let left = false;
    const listed = (list: BakeState[]) =>
      // one that was begun while the list was on its way is not in it
      setBakes((begun) => [...begun.filter(({ id }) => list.every((one) => one.id !== id)), ...list]);
    api.bakes(project).then(
      (list) => left || listed(list),
      (error: Error) => left || setProblem(error.message),
    );
    return () => {
      left = true;
      setBakes([]);
    };
  }, [project]);
  const running = bakes.find(({ status }) => status === 'queued' || status === 'running');
  useBakeEvents(running?.id, (state) => setBakes((old) => old.map((bake) => (bake.id === state.id ? state : bake))));
  if (!document || !project) return null;
  const { format } = chosen;
  // a piece that was renamed or deleted is asked for no more
  const named = chosen.settings.pieces?.filter((name) => document.pieces.some((piece) => piece.name === name));
  const asked = settingsFor(chosen, named?.length ? named : undefined);
  const pieces = document.pieces.filter(({ name, visible }) => asked.pieces?.includes(name) ?? visible);
  const rows = pieces.map((piece) => ({ piece, id: piece.id, name: piece.name, build: builds.get(piece.id) }));
  // rings and sides both grow with the density
  const { density } = asked;
  const counts = rows.map(({ build }) => (build ? counted(build, (density / densityOf(build)) ** 2) : undefined));
  const total = counts.reduce<Counted>((sum, one) => (one ? added(sum, one) : sum), NOTHING);
  const exact = density === 1 && rows.every(({ build }) => !build || densityOf(build) === 1);
  const findings = rows.reduce((sum, { build }) => sum + (build?.findings.length ?? 0), 0);
  const slots = [...new Set(rows.flatMap(({ build }) => build?.parts.map(({ slot }) => slot) ?? []))];
  // slots that none of these pieces has are asked for no more either
  const worn = asked.slots?.filter((slot) => slots.includes(slot));
  const settings = { ...asked, slots: worn?.length ? worn : undefined };
  const saved = save.state === 'saved';
  const start = async () => {
    setProblem(null);
    try {
      const bake = await api.startBake(project, { revision, format, ...settings });
      setBakes((old) => [bake, ...old.filter(({ id }) => id !== bake.id)]);
    } catch (error) {
      setProblem((error as Error).message);
    }
  };
  return (
    <>
      <PanelHead title="Bake" onClose={() => dispatch(bakingShown(false))} />
      <Box sx={{ p: 3, borderBottom: 1, borderColor: 'divider' }}>
        <BakeChoices
          chosen={{ ...chosen, settings: { ...chosen.settings, pieces: settings.pieces, slots: settings.slots } }}
          onChange={setChosen}
          pieces={document.pieces}
          slots={slots}
          has={contentOf(rows)}
          triangles={total.triangles}
        />
        <Counts rows={rows.map(({ id, name }, i) => ({ id, name, count: counts[i] }))} total={total} exact={exact} />
        {findings > 0 && (
          <Typography variant="body2" sx={{ color: COLOURS.straw, mb: 1 }}>
            {findings === 1 ? 'One finding is open' : `${findings} findings are open`}; you can bake anyway.
          </Typography>
        )}
        {running ? (
          <Running
            bake={running}
            onCancelled={(state) => setBakes((old) => old.map((bake) => (bake.id === state.id ? state : bake)))}
          />
        ) : (
          <Button variant="contained" fullWidth onClick={start} disabled={!saved || busy || pieces.length === 0}>
            {pieces.length === 0 ? 'Nothing to bake' : saved ? `Bake to ${format.toUpperCase()}` : 'Saving first…'}
          </Button>
        )}
        {problem && (
          <Typography role="alert" color="error" sx={{ mt: 2 }}>
            {problem}
          </Typography>
        )}
      </Box>
      <BakeHistory bakes={bakes.filter((bake) => bake !== running)} />
      {rows.length > 1 && !busy && (
        <Suspense>
          <CostChart rows={rows.map(({ name }, i) => ({ name, triangles: counts[i]?.triangles ?? 0 }))} />
        </Suspense>
      )}
    </>
  );
}

/** Of the three measures of how fine it is only the chosen one goes out. */
function settingsFor({ settings, lighter }: Chosen, pieces: string[] | undefined): BakeSettings {
  const { within = FIRST_WITHIN, triangles = FIRST_TRIANGLES, density, ...rest } = settings;
  return {
    ...rest,
    pieces,
    density: lighter === 'density' ? density : 1,
    ...(lighter === 'within' ? { within } : {}),
    ...(lighter === 'triangles' ? { triangles } : {}),
  };
}

/** What there is in pieces that a format may not carry. */
function contentOf(rows: readonly { piece: Piece; build?: PieceBuild }[]): BakeContent {
  const builds = rows.flatMap(({ build }) => build ?? []);
  const parts = builds.flatMap((build) => build.parts);
  const coloured = (part: Part) =>
    part.kind === 'placed'
      ? part.places.colour !== undefined
      : part.kind === 'mesh'
        ? part.mesh.attributes?.['colour'] !== undefined
        : part.curves.pointData['colour'] !== undefined;
  return {
    moves: rows.some(({ piece, build }) => piece.keyed !== undefined || (build?.motion.length ?? 0) > 0),
    strands: parts.some(({ kind }) => kind === 'strands'),
    lines: parts.some((part) => part.kind === 'strands' && part.shape === 'lines'),
    patterns: builds.some(({ materials }) =>
      Object.values(materials).some(({ pattern, picture }) => pattern ?? picture),
    ),
    colours: parts.some(coloured),
    placed: parts.some(({ kind }) => kind === 'placed'),
    meshes: parts.some(({ kind }) => kind !== 'strands'),
  };
}

type Counted = Pick<Measures, 'triangles' | 'vertices' | 'bytes'>;
const NOTHING: Counted = { triangles: 0, vertices: 0, bytes: 0 };

/** The density at which the page has a piece, against that of its bake. */
const densityOf = ({ draft, detail }: PieceBuild): number => (draft || detail ? DRAFT_DENSITY : 1);

const counted = ({ measures: { triangles, vertices, bytes } }: PieceBuild, factor: number): Counted => ({
  triangles: triangles * factor,
  vertices: vertices * factor,
  bytes: bytes * factor,
});

const added = (a: Counted, b: Counted): Counted => ({
  triangles: a.triangles + b.triangles,
  vertices: a.vertices + b.vertices,
  bytes: a.bytes + b.bytes,
});

interface CountsProps {
  rows: { id: string; name: string; count?: Counted }[];
  total: Counted;
  exact: boolean;
}

function Counts({ rows, total, exact }: CountsProps) {
  const about = (count: number) => `${exact ? '' : '≈ '}${countText(Math.round(count))}`;
  return (
    <Box
      component="table"
      sx={{
        width: '100%',
        borderCollapse: 'collapse',
        my: 2,
        '& td, & th': { py: '3px', borderBottom: `1px solid ${COLOURS.hairline}`, fontWeight: 400, fontSize: 12 },
        '& .number': { textAlign: 'right' },
      }}
    >
      <thead>
        <tr>
          <Box component="th" sx={{ textAlign: 'left', color: 'text.secondary' }}>
            Piece
          </Box>
          <Box component="th" className="number" sx={{ color: 'text.secondary' }}>
            triangles
          </Box>
        </tr>
      </thead>
      <tbody>
        {rows.map(({ id, name, count }) => (
          <tr key={id}>
            <td>{name}</td>
            <td className="number">{count ? about(count.triangles) : '…'}</td>
          </tr>
        ))}
      </tbody>
      <tfoot>
        <tr>
          <td>
            {about(total.vertices)} vertices, {bytesText(total.bytes)}
          </td>
          <td className="number">{about(total.triangles)}</td>
        </tr>
      </tfoot>
    </Box>
  );
}

function Running({ bake, onCancelled }: { bake: BakeState; onCancelled(state: BakeState): void }) {
  const { progress } = bake;
  return (
    <Box role="status">
      <Typography variant="body2" noWrap>
        {progress
          ? progress.done < progress.total
            ? `${Math.floor(progress.done) + 1} of ${progress.total}: ${progress.name}`
            : 'Writing the file…'
          : 'Queued…'}
      </Typography>
      <LinearProgress
        variant={progress ? 'determinate' : 'indeterminate'}
        value={progress ? (100 * progress.done) / progress.total : undefined}
        sx={{ my: 1 }}
        aria-label="Bake progress"
      />
      <Button variant="outlined" color="inherit" onClick={() => void api.cancelBake(bake.id).then(onCancelled)}>
        Cancel
      </Button>
    </Box>
  );
}

/** Follows a bake until it ends. */
function useBakeEvents(id: string | undefined, onState: (state: BakeState) => void): void {
  const reported = useRef(onState);
  reported.current = onState;
  useEffect(() => {
    if (!id) return;
    const events = new EventSource(api.bakeEventsUrl(id));
    const take = ({ data }: MessageEvent<string>) => reported.current(JSON.parse(data) as BakeState);
    events.addEventListener('state', take);
    events.addEventListener('end', (event) => {
      take(event);
      events.close();
    });
    return () => events.close();
  }, [id]);
}
