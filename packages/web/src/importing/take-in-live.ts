import { mergedDocument } from '@kelp/core';
import type { Project } from '@kelp/formats';
import { api } from '../api/client.js';
import type { AppDispatch } from '../app/store.js';
import type { Evaluation } from '../evaluation/evaluation.js';
import { edit, newId } from '../state/edits.js';

/** Takes the pieces of a project, with all they are on, into the one that is open. Its files go to the server first. */
export const takeInLive =
  (name: string, { document: from, props }: Project, evaluation: Evaluation) =>
  async (dispatch: AppDispatch): Promise<void> => {
    const meshes = new Set(from.props.map(({ mesh }) => mesh));
    for (const [hash, bytes] of props) {
      await api.putProp(hash, bytes);
      if (meshes.has(hash)) evaluation.addProp(hash, bytes);
    }
    dispatch(edit(`Import ${name}`, (document) => mergedDocument(document, from, newId).document));
  };
