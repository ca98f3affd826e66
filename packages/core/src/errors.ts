export type KelpErrorCode =
  | 'BAD_SHAPE'
  | 'BAD_NUMBER'
  | 'TOO_FEW_POINTS'
  | 'EMPTY_MESH'
  | 'EMPTY_CURVES'
  | 'INVALID_DOCUMENT'
  | 'NEWER_DOCUMENT'
  | 'UNKNOWN_UNIT'
  | 'UNKNOWN_ID'
  | 'MISSING_PROP'
  | 'BAD_FILE'
  | 'TOO_LARGE'
  | 'CANCELLED'
  | 'NOT_READY';

/** One thing that is wrong in a value: where it is (`pieces[2].make.parameters.radius`) and what to do about it. */
export interface Issue {
  path: string;
  message: string;
}

/** Every error that Kelp raises on purpose. Callers branch on `code`, people read `message`, forms use `issues`. */
export class KelpError extends Error {
  override name = 'KelpError';
  constructor(
    readonly code: KelpErrorCode,
    message: string,
    readonly issues: readonly Issue[] = [],
  ) {
    super(message);
  }
}
