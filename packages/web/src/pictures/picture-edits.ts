import { freeName, type Picture, tidyName } from '@kelp/core';
import { api } from '../api/client.js';
import type { AppDispatch, AppState } from '../app/store.js';
import { edit, newId } from '../state/edits.js';
import { pictureChosen } from '../state/view-slice.js';

/** Width of a new picture, metres, until it is sized by what is in it. */
const FIRST_WIDTH = 2;

/** Takes a picture into the project, standing at the back; the file goes to the server first. */
export const takeInPicture =
  (file: File) =>
  async (dispatch: AppDispatch, getState: () => AppState): Promise<void> => {
    // what reads files comes when there is one
    const { contentHash, MAX_PICTURE_BYTES, pictureInfo } = await import('@kelp/formats');
    // before its bytes are asked for
    if (file.size > MAX_PICTURE_BYTES)
      throw new Error(`${file.name} is larger than ${MAX_PICTURE_BYTES / 2 ** 20} MB, the largest image Kelp reads`);
    const bytes = new Uint8Array(await file.arrayBuffer());
    const { width, height } = pictureInfo(file.name, bytes);
    const image = contentHash(bytes);
    await api.putProp(image, bytes);
    const taken = getState().project.document?.pictures ?? [];
    const aspect = height / width;
    const picture: Picture = {
      id: newId(),
      name: freeName(tidyName(file.name.replace(/\.\w+$/, ''), 'Image'), taken),
      image,
      plane: 'front',
      position: [0, (FIRST_WIDTH * aspect) / 2, 0],
      width: FIRST_WIDTH,
      aspect,
      opacity: 0.8,
      visible: true,
      locked: false,
    };
    dispatch(edit(`Import ${file.name}`, (document) => ({ ...document, pictures: [...document.pictures, picture] })));
    dispatch(pictureChosen(picture.id));
  };

export const changePicture = (id: string, label: string, change: (old: Picture) => Picture, gesture?: string) =>
  edit(
    label,
    (document) => ({
      ...document,
      pictures: document.pictures.map((picture) => (picture.id === id ? change(picture) : picture)),
    }),
    gesture,
  );

export const deletePicture = (id: string, name: string) =>
  edit(`Delete ${name}`, (document) => ({
    ...document,
    pictures: document.pictures.filter((picture) => picture.id !== id),
  }));
