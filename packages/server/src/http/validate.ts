import type { Request } from 'express';
import * as yup from 'yup';

const uuid = yup
  .string()
  .matches(
    /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/,
    ({ path }) => `${path} must be an id like those the server gives`,
  );

/** Schemas of address parameters, by their name in the route. */
const PARAMS = {
  id: uuid.required(),
  hash: yup
    .string()
    .matches(/^[0-9a-f]{64}$/, 'hash must be a SHA-256 in hex')
    .required(),
  number: yup
    .number()
    .integer()
    .min(1)
    .max(2 ** 31)
    .required(),
};

/** One parameter of the address, checked. @throws yup.ValidationError */
export const param = <K extends keyof typeof PARAMS>(req: Request, name: K): yup.InferType<(typeof PARAMS)[K]> =>
  PARAMS[name].label(name).validateSync(req.params[name]) as yup.InferType<(typeof PARAMS)[K]>;

/** The body, checked against a schema. @throws yup.ValidationError */
export const body = <S extends yup.Schema>(req: Request, schema: S): yup.InferType<S> =>
  schema.validateSync(req.body ?? undefined, { abortEarly: false, strict: true }) as yup.InferType<S>;

/** A body of bytes. @throws yup.ValidationError when it is empty or came as something else */
export function bytesOf(req: Request): Uint8Array {
  if (Buffer.isBuffer(req.body) && req.body.length > 0)
    return new Uint8Array(req.body.buffer, req.body.byteOffset, req.body.length);
  throw new yup.ValidationError('The body must hold the bytes of a file, as application/octet-stream');
}
