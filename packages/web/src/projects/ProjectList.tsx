import DeleteOutlined from '@mui/icons-material/DeleteOutlined';
import { Alert, Box, Button, IconButton, Link as PageLink, Snackbar, Tooltip, Typography } from '@mui/material';
import { formatDistanceToNow } from 'date-fns';
import { lazy, Suspense, useCallback, useEffect, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { api, type ListedProject } from '../api/client.js';
import { FileButton } from '../fields/FileButton.js';
import { COLOURS } from '../theme/colours.js';
import { Cover } from './Cover.js';
import { DeletedProjects } from './DeletedProjects.js';

// its form comes when it is asked for
const NewProject = lazy(async () => ({ default: (await import('./NewProject.js')).NewProject }));

/** The start page: what is there, and the first thing to do when there is nothing. */
export function ProjectList() {
  const [projects, setProjects] = useState<ListedProject[] | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const [naming, setNaming] = useState(false);
  const [deleted, setDeleted] = useState<ListedProject | null>(null);
  const navigate = useNavigate();
  const refresh = useCallback(() => {
    api.projects().then(setProjects, (error: Error) => setProblem(error.message));
  }, []);
  useEffect(refresh, [refresh]);
  const attempt = (work: Promise<unknown>) => work.catch((error: Error) => setProblem(error.message));
  const open = async (file: File) => {
    setProblem(null);
    const { id, notes } = await api.importProject(new Uint8Array(await file.arrayBuffer()));
    await navigate(`/project/${id}`, { state: { notes } });
  };
  const remove = async (project: ListedProject) => {
    await api.deleteProject(project.id);
    setDeleted(project);
    refresh();
  };
  const restore = async (project: ListedProject) => {
    await api.restoreProject(project.id);
    setDeleted(null);
    refresh();
  };
  return (
    <Box component="main" sx={{ maxWidth: 860, mx: 'auto', px: 6, py: 10 }}>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 3, mb: 2 }}>
        <img src="/kelp.svg" width={34} height={34} alt="" />
        <Typography variant="h1" sx={{ flex: 1 }}>
          Projects
        </Typography>
        <FileButton
          variant="outlined"
          color="inherit"
          label="Open a .kelp file…"
          inputLabel="Project file"
          accept=".kelp,.json"
          onChoose={(file) => void attempt(open(file))}
        />
        <Button variant="contained" onClick={() => setNaming(true)}>
          New project
        </Button>
      </Box>
      <Typography color="textSecondary" sx={{ mb: 6 }}>
        Draw a line on a prop, choose what runs along it, tune it, and bake it to a clean mesh. The{' '}
        <PageLink component={Link} to="/guide">
          guide
        </PageLink>{' '}
        has one page per job; the{' '}
        <PageLink component={Link} to="/reference">
          reference
        </PageLink>{' '}
        lists all units and parameters.
      </Typography>
      {problem && (
        <Alert severity="error" sx={{ mb: 4 }} onClose={() => setProblem(null)}>
          {problem}
        </Alert>
      )}
      {projects?.length === 0 && (
        <Box
          sx={{
            border: `1px dashed ${COLOURS.hairline}`,
            borderRadius: '3px',
            p: 8,
            textAlign: 'center',
            bgcolor: 'background.paper',
          }}
        >
          <Typography variant="h2" gutterBottom>
            No projects yet
          </Typography>
          <Typography color="textSecondary" sx={{ mb: 4 }}>
            Create one, then drop a mesh on its view to draw on.
          </Typography>
          <Button variant="contained" onClick={() => setNaming(true)}>
            New project
          </Button>
        </Box>
      )}
      {projects && projects.length > 0 && (
        <Box
          component="ul"
          aria-label="Projects"
          sx={{
            listStyle: 'none',
            m: 0,
            p: 0,
            border: 1,
            borderColor: 'divider',
            borderRadius: '3px',
            bgcolor: 'background.paper',
          }}
        >
          {projects.map((project, i) => (
            <Box
              component="li"
              key={project.id}
              sx={{
                display: 'flex',
                alignItems: 'center',
                borderTop: i > 0 ? 1 : 0,
                borderColor: 'divider',
                '&:hover': { background: COLOURS.chosen },
              }}
            >
              <Box
                component={Link}
                to={`/project/${project.id}`}
                sx={{
                  flex: 1,
                  display: 'flex',
                  alignItems: 'center',
                  gap: 4,
                  px: 3,
                  py: 2,
                  textDecoration: 'none',
                  color: 'text.primary',
                  minWidth: 0,
                }}
              >
                <Cover project={project} />
                <Typography variant="h2" component="span" noWrap sx={{ flex: 1 }} dir="auto">
                  {project.name}
                </Typography>
                <Typography component="span" color="textSecondary" noWrap>
                  saved {formatDistanceToNow(new Date(project.updatedAt), { addSuffix: true })}
                </Typography>
                <Typography component="span" className="number" color="textSecondary" noWrap>
                  {project.pieces} pieces · {project.props} props
                </Typography>
              </Box>
              <Tooltip title="Delete (can be restored)">
                <IconButton
                  aria-label={`Delete ${project.name}`}
                  onClick={() => void attempt(remove(project))}
                  sx={{ mr: 2 }}
                >
                  <DeleteOutlined sx={{ fontSize: 19 }} />
                </IconButton>
              </Tooltip>
            </Box>
          ))}
        </Box>
      )}
      <DeletedProjects changed={projects} onRestore={(project) => void attempt(restore(project))} />
      <Suspense>
        {naming && <NewProject taken={projects ?? []} onClose={() => setNaming(false)} onProblem={setProblem} />}
      </Suspense>
      <Snackbar
        open={deleted !== null}
        autoHideDuration={12_000}
        onClose={(_event, reason) => reason !== 'clickaway' && setDeleted(null)}
        message={`${deleted?.name} was deleted`}
        action={
          <Button color="inherit" onClick={() => deleted && void attempt(restore(deleted))}>
            Restore
          </Button>
        }
      />
    </Box>
  );
}
