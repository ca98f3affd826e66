import { yupResolver } from '@hookform/resolvers/yup';
import { freeName } from '@kelp/core';
import {
  Button,
  Dialog,
  DialogActions,
  DialogContent,
  DialogTitle,
  FormControl,
  FormControlLabel,
  FormLabel,
  Radio,
  RadioGroup,
  TextField,
  Typography,
} from '@mui/material';
import { useEffect, useState } from 'react';
import { Controller, useForm } from 'react-hook-form';
import { useNavigate } from 'react-router';
import * as yup from 'yup';
import { api, type Template } from '../api/client.js';

const schema = yup
  .object({
    name: yup
      .string()
      .trim()
      .min(1, 'A project needs a name.')
      .max(200, 'A project name has at most 200 characters.')
      .required('A project needs a name.'),
    template: yup.string().required(),
  })
  .required();

interface NewProjectProps {
  /** Projects whose names are in use. */
  taken: readonly { name: string }[];
  onClose(): void;
  onProblem(text: string): void;
}

/** Name and beginning of a new project. */
export function NewProject({ taken, onClose, onProblem }: NewProjectProps) {
  const navigate = useNavigate();
  const [templates, setTemplates] = useState<readonly Template[]>([]);
  const { register, control, handleSubmit, formState } = useForm({
    resolver: yupResolver(schema),
    defaultValues: { name: freeName('Project', taken), template: 'empty' },
  });
  useEffect(() => {
    api.templates().then(setTemplates, (error: Error) => onProblem(error.message));
  }, [onProblem]);
  const create = handleSubmit(async ({ name, template }) => {
    try {
      const { id } = await api.createProject(name, template);
      await navigate(`/project/${id}`);
    } catch (error) {
      onProblem((error as Error).message);
      onClose();
    }
  });
  return (
    <Dialog open onClose={onClose} maxWidth="xs" fullWidth aria-labelledby="new-title">
      <form onSubmit={create}>
        <DialogTitle id="new-title">New project</DialogTitle>
        <DialogContent>
          <TextField
            autoFocus
            fullWidth
            label="Name"
            margin="dense"
            error={formState.errors.name !== undefined}
            helperText={formState.errors.name?.message}
            // typing replaces what is suggested
            onFocus={({ target }) => target.select()}
            {...register('name')}
          />
          <FormControl sx={{ mt: 3 }}>
            <FormLabel id="begin-with" sx={{ fontSize: 13 }}>
              Start with
            </FormLabel>
            <Controller
              name="template"
              control={control}
              render={({ field }) => (
                <RadioGroup {...field} aria-labelledby="begin-with">
                  {templates.map(({ id, label, purpose }) => (
                    <FormControlLabel
                      key={id}
                      value={id}
                      control={<Radio size="small" sx={{ py: 1 }} />}
                      sx={{ alignItems: 'flex-start' }}
                      label={
                        <>
                          <Typography sx={{ pt: 1, fontWeight: 600 }}>{label}</Typography>
                          <Typography variant="body2" color="textSecondary">
                            {purpose}
                          </Typography>
                        </>
                      }
                    />
                  ))}
                </RadioGroup>
              )}
            />
          </FormControl>
        </DialogContent>
        <DialogActions>
          <Button color="inherit" onClick={onClose}>
            Cancel
          </Button>
          <Button variant="contained" type="submit" disabled={formState.isSubmitting}>
            Create
          </Button>
        </DialogActions>
      </form>
    </Dialog>
  );
}
