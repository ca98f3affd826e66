import {
  Box,
  Button,
  Dialog,
  DialogActions,
  DialogContent,
  DialogTitle,
  MenuItem,
  Select,
  Typography,
} from '@mui/material';
import { format as dateText } from 'date-fns';
import { lazy, Suspense, useState } from 'react';
import { api, type BakeState } from '../api/client.js';
import { useAppSelector } from '../app/store.js';
import { bytesText, countText, lengthText } from '../fields/units.js';
import { COLOURS } from '../theme/colours.js';
import { settingsWords } from './settings-words.js';

// charts are much code for one place
const CostChart = lazy(async () => ({ default: (await import('./CostChart.js')).CostChart }));

type Report = NonNullable<BakeState['report']>;

/** What a bake holds, by what settings, what it cost and what its checks said; beside it another one to compare with. */
export function BakeReport({
  bake,
  others,
  onClose,
}: {
  bake: BakeState;
  others: readonly BakeState[];
  onClose(): void;
}) {
  const unit = useAppSelector((state) => state.project.document?.displayUnit ?? 'm');
  const [with_, setWith] = useState('');
  const { report } = bake;
  if (!report) return null;
  const other = others.find(({ id }) => id === with_)?.report ?? undefined;
  const before = new Map(other?.pieces.map((piece) => [piece.name, piece]));
  const gone = other?.pieces.filter(({ name }) => !report.pieces.some((piece) => piece.name === name)) ?? [];
  const findings = report.pieces.flatMap(({ name, findings: all }) => all.map((finding) => ({ name, ...finding })));
  // a check that fails in many places is reported once
  const reported = new Map<string, { name: string; severity: string; message: string; times: number }>();
  for (const { name, code, severity, message } of findings) {
    const key = `${name} ${code}`;
    reported.set(key, { name, severity, message, times: (reported.get(key)?.times ?? 0) + 1 });
  }
  return (
    <Dialog open onClose={onClose} maxWidth="md" fullWidth aria-labelledby="report-title">
      <DialogTitle id="report-title">Bake report</DialogTitle>
      <DialogContent>
        <Typography color="textSecondary" gutterBottom>
          {dateText(new Date(bake.createdAt), 'd MMMM yyyy, HH:mm')}, saved version {bake.revision}.{' '}
          {settingsWords(bake.format, bake.settings)}.
        </Typography>
        {others.length > 0 && (
          <Select
            size="small"
            displayEmpty
            value={with_}
            onChange={({ target }) => setWith(target.value)}
            inputProps={{ 'aria-label': 'Compare with' }}
            sx={{ mb: 2, minWidth: 320 }}
          >
            <MenuItem value="">Compare with another bake…</MenuItem>
            {others.map((one) => (
              <MenuItem key={one.id} value={one.id}>
                {dateText(new Date(one.createdAt), 'd MMM, HH:mm:ss')}: {settingsWords(one.format, one.settings)}
              </MenuItem>
            ))}
          </Select>
        )}
        <Box
          component="table"
          aria-label="Pieces in the bake"
          sx={{
            width: '100%',
            borderCollapse: 'collapse',
            mb: 3,
            '& td, & th': {
              py: '4px',
              px: 1,
              borderBottom: `1px solid ${COLOURS.hairline}`,
              fontSize: 12.5,
              fontWeight: 400,
              textAlign: 'left',
            },
            '& .number': { textAlign: 'right' },
          }}
        >
          <thead>
            <tr>
              <th>Piece</th>
              <th className="number">length</th>
              <th className="number">triangles</th>
              {other && <th className="number">change</th>}
              <th className="number">vertices</th>
              <th className="number">max error</th>
              <th className="number">findings</th>
            </tr>
          </thead>
          <tbody>
            {report.pieces.map((piece) => (
              <tr key={piece.name}>
                <td dir="auto">{piece.name}</td>
                <td className="number">{lengthText(piece.length, unit)}</td>
                <td className="number">{countText(piece.triangles)}</td>
                {other && (
                  <td className="number">{differenceText(piece.triangles, before.get(piece.name)?.triangles)}</td>
                )}
                <td className="number">{countText(piece.vertices)}</td>
                <td className="number">{piece.off === undefined ? '' : lengthText(piece.off, 'mm')}</td>
                <td className="number">{piece.findings.length || ''}</td>
              </tr>
            ))}
          </tbody>
          <tfoot>
            <tr>
              <td>
                {bytesText(report.bytes)} in {report.seconds.toFixed(1)} s
              </td>
              <td />
              <td className="number">{countText(trianglesOf(report))}</td>
              {other && <td className="number">{differenceText(trianglesOf(report), trianglesOf(other))}</td>}
              <td className="number">{countText(report.pieces.reduce((sum, { vertices }) => sum + vertices, 0))}</td>
              <td />
              <td className="number">{findings.length || ''}</td>
            </tr>
          </tfoot>
        </Box>
        {other && (
          <Typography gutterBottom>
            {bytesText(report.bytes)} instead of {bytesText(other.bytes)}.
            {gone.length > 0 && ` Not in this bake: ${gone.map(({ name }) => name).join(', ')}.`}
          </Typography>
        )}
        {findings.length > 0 && (
          <Box component="ul" aria-label="Findings in the bake" sx={{ m: 0, mb: 2, pl: 4, fontSize: 13 }}>
            {[...reported].map(([key, { name, severity, message, times }]) => (
              <li key={key}>
                <b>{name}</b>, {severity}: {message}
                {times > 1 && ` (${times} places)`}
              </li>
            ))}
          </Box>
        )}
        {report.pieces.length > 1 && (
          <Suspense>
            <CostChart rows={report.pieces} />
          </Suspense>
        )}
      </DialogContent>
      <DialogActions>
        <Button color="inherit" onClick={onClose}>
          Close
        </Button>
        {bake.format === 'obj' && !bake.settings.frames && (
          <Button variant="outlined" color="inherit" component="a" href={api.bakeMaterialsUrl(bake.id)} download>
            Materials (MTL)
          </Button>
        )}
        <Button variant="contained" component="a" href={api.bakeFileUrl(bake.id)} download>
          Download
        </Button>
      </DialogActions>
    </Dialog>
  );
}

const trianglesOf = ({ pieces }: Report): number => pieces.reduce((sum, { triangles }) => sum + triangles, 0);

function differenceText(now: number, then: number | undefined): string {
  if (then === undefined) return 'new';
  if (now === then) return 'unchanged';
  const share = then > 0 ? ` (${now > then ? '+' : '−'}${Math.round((100 * Math.abs(now - then)) / then)} %)` : '';
  return `${now > then ? '+' : '−'}${countText(Math.abs(now - then))}${share}`;
}
