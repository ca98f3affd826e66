import { configureStore } from '@reduxjs/toolkit';
import { setAutoFreeze } from 'immer';
import { useDispatch, useSelector, useStore } from 'react-redux';
import { projectReducer } from '../state/project-slice.js';
import { createSaving } from '../state/saving.js';
import { viewReducer } from '../state/view-slice.js';

// Meshes stay out of the store: it holds the document, what is chosen and how things are looked at.
// whatever is in the store is replaced, never written to; going through a large project to make sure costs too much
setAutoFreeze(import.meta.env.DEV);

export const store = configureStore({
  reducer: { project: projectReducer, view: viewReducer },
  middleware: (defaults) =>
    defaults({ serializableCheck: false, immutableCheck: false }).prepend(createSaving().middleware),
  enhancers: (defaults) => defaults({ autoBatch: { type: 'timer', timeout: 0 } }),
});

export type AppState = ReturnType<typeof store.getState>;
export type AppDispatch = typeof store.dispatch;
export const useAppDispatch = useDispatch.withTypes<AppDispatch>();
export const useAppStore = useStore.withTypes<typeof store>();
export const useAppSelector = useSelector.withTypes<AppState>();
