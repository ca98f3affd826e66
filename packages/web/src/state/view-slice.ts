import { createSlice, type PayloadAction } from '@reduxjs/toolkit';

export type Look = 'form' | 'dressed' | 'mesh' | 'checker';
export type Pen = 'stroke' | 'points' | 'throw' | 'string' | 'wheels';
/** A point of a drawn curve. */
export interface PointPlace {
  curve: string;
  index: number;
}
/** Where a pen draws when no prop is under it: on the ground, or upright through the middle of everything. */
export type DrawingPlane = 'ground' | 'front' | 'side';
/** Parts of the workbench that can be folded away. */
export type PanelName = 'stem' | 'manifest' | 'strip';
export type Float = 'path' | 'shape' | 'make' | 'dress' | 'bake';

export interface ViewState {
  /** The piece that was chosen last, and all that are chosen with it, itself included. */
  piece: string | null;
  pieces: string[];
  /** The point of a drawn curve that was chosen last, and all that are chosen with it, itself included. */
  point: PointPlace | null;
  points: PointPlace[];
  /** The element of the chosen piece that was picked, by its id. */
  element: number | null;
  /** The connection of the chosen piece that was picked, by the numbers of what it runs between, and its line. */
  link: { from: number; to: number; line: number } | null;
  prop: string | null;
  picture: string | null;
  pen: Pen | null;
  /** The piece that a drawn line joins; a new piece when null. */
  into: string | null;
  /** The only prop that pens feel; whichever is under the pointer when null. */
  target: string | null;
  plane: DrawingPlane;
  /** Length of the rope on which the Stroke pen is pulled, pixels. */
  rope: number;
  /** Pieces are seen through while a key is held. */
  seeThrough: boolean;
  /** The line of the chosen piece is shown as it is after this many of its stages: 0 path, 1 first shape, … */
  watch: number | null;
  look: Look;
  /** A kept state of the chosen piece is shown right of a divider, which is at a share of the view's width. */
  compare: { variant: string; at: number } | null;
  /** The stage of the chosen piece that stands open. */
  open: Float;
  /** A place that is to be looked at; a new object each time it is asked for. */
  lookAt: { place: readonly [number, number, number] } | null;
  /** The step of the first-minute tour that is shown. */
  tour: number | null;
  /** The locker stands open; and what rests under the pointer there is tried on the chosen piece. */
  locker: boolean;
  tried: { unit: string; preset: string } | null;
  /** Panels. */
  checks: boolean;
  baking: boolean;
  folded: Record<PanelName, boolean>;
}

/** What is in force once something else is chosen. */
const NOTHING = {
  piece: null,
  pieces: [],
  point: null,
  points: [],
  element: null,
  link: null,
  prop: null,
  picture: null,
  watch: null,
  compare: null,
  locker: false,
  tried: null,
} satisfies Partial<ViewState>;

const initialState: ViewState = {
  ...NOTHING,
  pen: null,
  into: null,
  target: null,
  plane: 'ground',
  rope: 14,
  seeThrough: false,
  look: 'dressed',
  open: 'make',
  lookAt: null,
  tour: null,
  checks: false,
  baking: false,
  folded: { stem: false, manifest: false, strip: false },
};

const slice = createSlice({
  name: 'view',
  initialState,
  reducers: {
    /** Another project: all that was chosen is let go. */
    reset: (state) => ({ ...initialState, folded: state.folded }),
    pieceChosen: (state, { payload }: PayloadAction<string | null>) => ({
      ...state,
      ...NOTHING,
      piece: payload,
      pieces: payload === null ? [] : [payload],
    }),
    /** Many at once; the last is the one whose line is shown. */
    piecesChosen: (state, { payload }: PayloadAction<string[]>) => ({
      ...state,
      ...NOTHING,
      piece: payload.at(-1) ?? null,
      pieces: payload,
    }),
    pictureChosen: (state, { payload }: PayloadAction<string | null>) => ({
      ...state,
      ...NOTHING,
      picture: payload,
    }),
    propChosen: (state, { payload }: PayloadAction<string | null>) => ({
      ...state,
      ...NOTHING,
      prop: payload,
    }),
    elementChosen: (state, { payload }: PayloadAction<number | null>) => ({
      ...state,
      element: payload,
      point: null,
      points: [],
    }),
    linkChosen: (state, { payload }: PayloadAction<ViewState['link']>) => ({ ...state, element: null, link: payload }),
    pointChosen: (state, { payload }: PayloadAction<ViewState['point']>) => ({
      ...state,
      element: null,
      point: payload,
      points: payload ? [payload] : [],
    }),
    /** Many at once; the last is the one whose numbers are shown. */
    pointsChosen: (state, { payload }: PayloadAction<PointPlace[]>) => ({
      ...state,
      points: payload,
      point: payload.at(-1) ?? null,
    }),
    penTaken: (state, { payload }: PayloadAction<Pen | null>) => ({
      ...state,
      pen: payload,
      // another pen goes on with the same piece
      into: payload && state.pen ? state.into : null,
      point: null,
      points: [],
    }),
    /** Draws another line into a piece. */
    penTakenInto: (state, { payload }: PayloadAction<{ pen: Pen; piece: string }>) => ({
      ...state,
      pen: payload.pen,
      into: payload.piece,
      point: null,
      points: [],
    }),
    targetLocked: (state, { payload }: PayloadAction<string | null>) => ({ ...state, target: payload }),
    planeChosen: (state, { payload }: PayloadAction<DrawingPlane>) => ({ ...state, plane: payload }),
    ropeSet: (state, { payload }: PayloadAction<number>) => ({ ...state, rope: payload }),
    seenThrough: (state, { payload }: PayloadAction<boolean>) => ({ ...state, seeThrough: payload }),
    stageWatched: (state, { payload }: PayloadAction<number | null>) => ({ ...state, watch: payload }),
    lookedAt: (state, { payload }: PayloadAction<readonly [number, number, number]>) => ({
      ...state,
      lookAt: { place: payload },
    }),
    lockerOpened: (state, { payload }: PayloadAction<boolean>) => ({ ...state, locker: payload, tried: null }),
    presetTried: (state, { payload }: PayloadAction<ViewState['tried']>) => ({ ...state, tried: payload }),
    compared: (state, { payload }: PayloadAction<ViewState['compare']>) => ({ ...state, compare: payload }),
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
    tourMoved: (state, { payload }: PayloadAction<number | null>) => ({ ...state, tour: payload }),
    panelFolded: (state, { payload }: PayloadAction<{ panel: PanelName; folded: boolean }>) => ({
      ...state,
      folded: { ...state.folded, [payload.panel]: payload.folded },
    }),
    panelToggled: (state, { payload }: PayloadAction<PanelName>) => ({
      ...state,
      folded: { ...state.folded, [payload]: !state.folded[payload] },
    }),
  },
});

export const viewReducer = slice.reducer;
export const {
  reset,
  pieceChosen,
  piecesChosen,
  propChosen,
  pictureChosen,
  pointChosen,
  pointsChosen,
  elementChosen,
  linkChosen,
  penTaken,
  penTakenInto,
  targetLocked,
  planeChosen,
  ropeSet,
  seenThrough,
  stageWatched,
  compared,
  lockerOpened,
  presetTried,
  lookChanged,
  lookedAt,
  floatOpened,
  checksShown,
  bakingShown,
  panelFolded,
  panelToggled,
  tourMoved,
} = slice.actions;
