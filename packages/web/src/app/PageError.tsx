import { Box, Button, Typography } from '@mui/material';
import { Link, useRouteError } from 'react-router';

/** What is shown instead of a page that broke or does not exist. */
export function PageError() {
  const error = useRouteError() as { status?: number; message?: string };
  const text =
    error?.status === 404
      ? 'There is no page at this address.'
      : 'This page stopped working. Your edits are kept in this browser; open the project again to continue.';
  return (
    <Box role="alert" sx={{ p: 10, maxWidth: 560 }}>
      <Typography variant="h1" gutterBottom>
        Page not found
      </Typography>
      <Typography gutterBottom>{text}</Typography>
      {error?.message && (
        <Typography color="textSecondary" gutterBottom>
          {error.message}
        </Typography>
      )}
      <Button variant="contained" component={Link} to="/" reloadDocument>
        Show projects
      </Button>
    </Box>
  );
}
