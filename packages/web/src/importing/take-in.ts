import { freeName, HOME, type Prop, tidyName } from '@kelp/core';
import type { PropChoices } from '@kelp/formats';
import { api } from '../api/client.js';
import type { AppDispatch, AppState } from '../app/store.js';
import type { Evaluation } from '../evaluation/evaluation.js';
import { edit, newId } from '../state/edits.js';
import { propChosen } from '../state/view-slice.js';
import type { ReadModelFile } from './read-file.js';
import { encodeApart } from './reader-thread.js';

/** Colour of a prop that brings none: stone that cables of any colour stand out against. */
const PROP_COLOUR = '#cfcdc2';

/**
 * Takes a read file into the project: one prop, or one for each body in it. The meshes go to the server first, so that
 * no save can name one that is not there.
 */
export const takeIn =
  (file: ReadModelFile, choices: PropChoices, separate: boolean, evaluation: Evaluation) =>
  async (dispatch: AppDispatch, getState: () => AppState): Promise<void> => {
    const groups = separate
      ? file.model.objects.map((object) => ({ name: object.name, objects: [object] }))
      : [{ name: file.name.replace(/\.\w+$/, ''), objects: file.model.objects }];
    const props: Prop[] = [];
    const taken = [...(getState().project.document?.props ?? [])];
    const encoded = await encodeApart(
      file.name,
      groups.map(({ objects }) => objects),
      choices,
    );
    for (const [k, { name }] of groups.entries()) {
      const { bytes, hash } = encoded[k];
      await api.putProp(hash, bytes);
      evaluation.addProp(hash, bytes);
      const prop: Prop = {
        id: newId(),
        name: freeName(tidyName(name, 'Prop'), taken),
        mesh: hash,
        placement: HOME,
        visible: true,
        colour: PROP_COLOUR,
      };
      props.push(prop);
      taken.push(prop);
    }
    dispatch(edit(`Import ${file.name}`, (document) => ({ ...document, props: [...document.props, ...props] })));
    if (props.length === 1) dispatch(propChosen(props[0].id));
  };
