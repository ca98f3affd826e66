import { Box, ButtonBase, Typography } from '@mui/material';
import type { ReactNode } from 'react';
import { COLUMNS, narrowColumn, type Order, WIDE } from './columns.js';

/** A figure for each column, the same widths in every row: all of them where there is room. */
export function Figures({ by, figure }: { by: Order['by']; figure(column: (typeof COLUMNS)[number]): ReactNode }) {
  const always = narrowColumn(by);
  return COLUMNS.map((column) => (
    <Box
      key={column.id}
      sx={{
        flexShrink: 0,
        textAlign: 'right',
        ...(column.id !== always && { display: 'none' }),
        [`@container (min-width: ${WIDE}px)`]: { display: 'block', width: column.width },
      }}
    >
      {figure(column)}
    </Box>
  ));
}

/** Heads of the columns; a click orders by one, a second click turns the order round. */
export function FigureHeads({ order, onOrder }: { order: Order; onOrder(by: Order['by']): void }) {
  return (
    <Box sx={{ display: 'flex', gap: 1.5, mr: '52px' }}>
      <Figures
        by={order.by}
        figure={({ id }) => (
          <ButtonBase
            onClick={() => onOrder(id)}
            aria-pressed={order.by === id}
            aria-label={`Order by ${id}`}
            title={order.by === id ? 'Turn the order round' : `Order by ${id}`}
          >
            <Typography className="number" noWrap color={order.by === id ? 'textPrimary' : 'textSecondary'}>
              {id}
              {order.by === id && (order.reversed ? ' ↑' : ' ↓')}
            </Typography>
          </ButtonBase>
        )}
      />
    </Box>
  );
}
