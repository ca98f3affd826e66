import { Box, Typography } from '@mui/material';
import { Bar, BarChart, LabelList, XAxis, YAxis } from 'recharts';
import { countText } from '../fields/units.js';
import { COLOURS, NUMBER_FONT, TEXT_FONT } from '../theme/colours.js';

/** This many pieces are shown by name; the others as one. */
const SHOWN = 6;
const ROW = 20;
const WIDTH = 212;

/** Where the triangles of a bake are: the heaviest pieces first, what is left in one bar. */
export function CostChart({ rows }: { rows: readonly { name: string; triangles: number }[] }) {
  const heaviest = rows.toSorted((a, b) => b.triangles - a.triangles);
  const rest = heaviest.slice(SHOWN).reduce((sum, { triangles }) => sum + triangles, 0);
  const shown = heaviest.slice(0, SHOWN);
  if (rest > 0) shown.push({ name: `${heaviest.length - SHOWN} others`, triangles: rest });
  const words = shown.map(({ name, triangles }) => `${name} ${countText(Math.round(triangles))}`).join(', ');
  return (
    <Box role="img" aria-label={`Triangles by piece: ${words}`} sx={{ p: 3 }}>
      <Typography variant="body2" color="textSecondary" sx={{ mb: 1 }}>
        Triangles by piece
      </Typography>
      <BarChart
        layout="vertical"
        width={WIDTH}
        height={ROW * shown.length}
        data={shown.map((row) => ({ ...row, label: countText(Math.round(row.triangles)) }))}
        margin={{ top: 0, right: 52, bottom: 0, left: 0 }}
        barSize={8}
        accessibilityLayer={false}
      >
        <XAxis type="number" hide domain={[0, 'dataMax']} />
        <YAxis
          type="category"
          dataKey="name"
          width={84}
          axisLine={false}
          tickLine={false}
          interval={0}
          tickFormatter={(name: string) => (name.length > 13 ? `${name.slice(0, 12)}…` : name)}
          tick={{ fill: COLOURS.ink, fontSize: 11, fontFamily: TEXT_FONT }}
        />
        <Bar dataKey="triangles" fill={COLOURS.tide} isAnimationActive={false}>
          <LabelList dataKey="label" position="right" fill={COLOURS.inkSecond} fontSize={11} fontFamily={NUMBER_FONT} />
        </Bar>
      </BarChart>
    </Box>
  );
}
