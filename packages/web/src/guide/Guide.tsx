import { Box, Link as PageLink, Table, TableCell, TableRow, Typography } from '@mui/material';
import { useEffect, useState } from 'react';
import Markdown, { type Components } from 'react-markdown';
import { Link, useParams } from 'react-router';
import remarkGfm from 'remark-gfm';
import { GUIDE } from './pages.js';

/** The same files as on disk: texts one by one when they are read, pictures by their addresses. */
const TEXTS = import.meta.glob<string>('../../../../docs/guide/*.md', { query: '?raw', import: 'default' });
const PICTURES = import.meta.glob<string>('../../../../docs/screenshots/*.png', {
  query: '?url',
  import: 'default',
  eager: true,
});

const COMPONENTS: Components = {
  h1: ({ children }) => <Typography variant="h1">{children}</Typography>,
  h2: ({ children }) => (
    <Typography variant="h2" sx={{ mt: 5, mb: 1 }}>
      {children}
    </Typography>
  ),
  img: ({ src, alt }) => (
    <Box
      component="img"
      src={PICTURES[`../../../../docs/${String(src).replace('../', '')}`]}
      alt={alt}
      sx={{ width: '100%', border: 1, borderColor: 'divider', borderRadius: '3px', my: 2 }}
    />
  ),
  a: ({ href, children }) => {
    const page = /^([\w-]+)\.md$/.exec(href ?? '')?.[1];
    return page && GUIDE.some(({ id }) => id === page) ? (
      <PageLink component={Link} to={`/guide/${page}`}>
        {children}
      </PageLink>
    ) : (
      <>{children}</>
    );
  },
  table: ({ children }) => <Table size="small">{children}</Table>,
  tr: ({ children }) => <TableRow>{children}</TableRow>,
  td: ({ children }) => <TableCell>{children}</TableCell>,
  th: ({ children }) => <TableCell component="th">{children}</TableCell>,
};

/** The guide: one page per job, rendered from docs/guide. */
export function Guide() {
  const { page = GUIDE[0].id } = useParams();
  const [text, setText] = useState<string>();
  useEffect(() => {
    let isCurrent = true;
    setText(undefined);
    const load = GUIDE.some(({ id }) => id === page) && TEXTS[`../../../../docs/guide/${page}.md`];
    if (load) load().then((loaded) => isCurrent && setText(loaded));
    else setText('# Page not found\n\nChoose a page on the left.');
    return () => {
      isCurrent = false;
    };
  }, [page]);
  return (
    <Box sx={{ display: 'flex', gap: 8, maxWidth: 1000, mx: 'auto', px: 6, py: 8, alignItems: 'flex-start' }}>
      <Box
        component="nav"
        aria-label="Guide pages"
        sx={{
          width: 180,
          flexShrink: 0,
          position: 'sticky',
          top: 32,
          display: 'flex',
          flexDirection: 'column',
          gap: 1,
        }}
      >
        <PageLink component={Link} to="/" sx={{ mb: 2 }}>
          Projects
        </PageLink>
        {GUIDE.map(({ id, title }) => (
          <PageLink
            key={id}
            component={Link}
            to={`/guide/${id}`}
            aria-current={id === page ? 'page' : undefined}
            sx={{ '&[aria-current]': { fontWeight: 650, textDecoration: 'none' } }}
          >
            {title}
          </PageLink>
        ))}
        <PageLink component={Link} to="/reference" sx={{ mt: 2 }}>
          Reference
        </PageLink>
      </Box>
      <Box component="main" sx={{ flex: 1, minWidth: 0, fontSize: 15, lineHeight: 1.6, '& li': { mb: 1 } }}>
        {text !== undefined && (
          <Markdown components={COMPONENTS} remarkPlugins={[remarkGfm]}>
            {text}
          </Markdown>
        )}
      </Box>
    </Box>
  );
}
