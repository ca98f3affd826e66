import { createSlice, type PayloadAction } from '@reduxjs/toolkit';

export type Look = 'form' | 'dressed' | 'mesh';
export type Pen = 'stroke' | 'points';
export type Float = 'path' | 'shape' | 'make' | 'dress' | 'bake';

export interface ViewState {
  piece: string | null;
  /** A point of a drawn curve that is chosen. */
  point: { curve: string; index: number } | null;
  prop: string | null;
  pen: Pen | null;
  look: Look;
  /** The stage of the chosen piece that stands open. */
  open: Float;
  /** A place that is to be looked at; a new object each time it is asked for. */
  lookAt: { place: readonly [number, number, number] } | null;
  /** Panels. */
  checks: boolean;
  baking: boolean;
  strip: boolean;
}

const initialState: ViewState = {
  piece: null,
  point: null,
  prop: null,
  pen: null,
  look: 'dressed',
  open: 'make',
  lookAt: null,
  checks: false,
  baking: false,
  strip: true,
};

const slice = createSlice({
  name: 'view',
  initialState,
  reducers: {
    reset: () => initialState,
    pieceChosen: (state, { payload }: PayloadAction<string | null>) => ({
      ...state,
      piece: payload,
      point: null,
      prop: null,
    }),
    propChosen: (state, { payload }: PayloadAction<string | null>) => ({
      ...state,
      prop: payload,
      piece: null,
      point: null,
    }),
    pointChosen: (state, { payload }: PayloadAction<ViewState['point']>) => ({ ...state, point: payload }),
    penTaken: (state, { payload }: PayloadAction<Pen | null>) => ({ ...state, pen: payload, point: null }),
    lookedAt: (state, { payload }: PayloadAction<readonly [number, number, number]>) => ({
      ...state,
      lookAt: { place: payload },
    }),
    lookChanged: (state, { payload }: PayloadAction<Look>) => ({ ...state, look: payload }),
    floatOpened: (state, { payload }: PayloadAction<Float>) => ({ ...state, open: payload }),
    checksShown: (state, { payload }: PayloadAction<boolean>) => ({
      ...state,
      checks: payload,
      baking: payload ? false : state.baking,
    }),
    bakingShown: (state, { payload }: PayloadAction<boolean>) => ({
      ...state,
      baking: payload,
      checks: payload ? false : state.checks,
    }),
    stripShown: (state, { payload }: PayloadAction<boolean>) => ({ ...state, strip: payload }),
  },
});

export const viewReducer = slice.reducer;
export const {
  reset,
  pieceChosen,
  propChosen,
  pointChosen,
  penTaken,
  lookChanged,
  lookedAt,
  floatOpened,
  checksShown,
  bakingShown,
  stripShown,
} = slice.actions;
